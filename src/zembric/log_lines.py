"""Where the processes' own log lines go: to standard output, one JSON object a line."""

from __future__ import annotations

import logging
import os
import sys

import structlog


def write_log_lines() -> None:
    """By the standard library's handler: a line that finds no room on the disk is lost, and nothing else is lost with it."""
    logging.basicConfig(stream=sys.stdout, format="%(message)s", level=logging.WARNING, force=True)
    level = logging.getLevelNamesMapping()[os.environ.get("ZEMBRIC_LOG", "INFO").upper()]
    logging.getLogger("zembric").setLevel(level)
    structlog.configure(
        processors=[
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.dict_tracebacks,
            structlog.processors.JSONRenderer(),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(level),
        logger_factory=structlog.stdlib.LoggerFactory(),
    )
