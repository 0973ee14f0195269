"""Bytes of a log into lines of plain UTF-8, whatever encoding and line ends it came with."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zembric.core.measure.traces.model import LogRefusedError, Remark
from zembric.core.said import said

_HEAD = 65536
#: How other files that end up in a log's place begin, and what to do instead.
_FOREIGN = (
    (b"PK\x03\x04", said("no-log-but-compressed")),
    (b"\xd0\xcf\x11\xe0", said("no-log-but-old-spreadsheet")),
    (b"\x1f\x8b", said("no-log-but-compressed")),
    (b"%PDF", said("no-log-but-pdf")),
    (b"\x89PNG", said("no-log-but-picture")),
    (b"\xff\xd8\xff", said("no-log-but-picture")),
)

_NEWLINE = ord("\n")
#: Eight bytes of which one or more are no ASCII; so many of them are looked at together.
_NO_ASCII, _WORDS = 0x8080808080808080, 1 << 15


@dataclass(frozen=True, slots=True)
class LogText:
    """UTF-8 lines that end with \\n; line k of it is line k of the file."""

    body: bytes
    encoding: str
    ends_with_newline: bool
    remarks: tuple[Remark, ...]


def read_text(content: bytes) -> LogText:
    """Decodes a log.

    Raises:
        LogRefusedError: empty, or no text at all.
    """
    if not _has_content(content):
        raise LogRefusedError(said("file-is-empty"), code="empty-file")
    for magic, wrong in _FOREIGN:
        if content.startswith(magic):
            raise LogRefusedError(wrong, code="not-a-log")
    remarks: list[Remark] = []
    body, encoding = (content, "utf-8") if _is_plain(content) else _cleaned(content, remarks)
    _refuse_noise(body)
    head = body[:_HEAD].lstrip().lower()
    if head.startswith((b"<html", b"<!doctype", b"<table", b"<?xml")):
        raise LogRefusedError(
            said("this-is-web-page-or-xml"),
            code="not-a-log",
            line=1,
        )
    ends = body.endswith(b"\n")
    return LogText(body if ends else body + b"\n", encoding, ends, tuple(remarks))


def _has_content(content: bytes) -> bool:
    blank = b"\x00 \t\r\n\xef\xbb\xbf\xff\xfe"
    return bool(content[:_HEAD].strip(blank)) or bool(content[_HEAD:].strip(blank))


def _is_plain(content: bytes) -> bool:
    """Whether there is nothing to decode, to leave out or to mend: a stretch at a time, so that each is fetched once."""
    words = np.frombuffer(content, dtype=np.uint64, count=len(content) // 8)
    for at in range(0, words.size, _WORDS):
        part = words[at : at + _WORDS]
        start, stop = 8 * at, 8 * (at + part.size)
        if int(np.bitwise_or.reduce(part)) & _NO_ASCII or max(content.find(c, start, stop) for c in (0, 13)) >= 0:
            return False
    rest = content[8 * words.size :]
    return rest.isascii() and 0 not in rest and 13 not in rest


def _cleaned(content: bytes, remarks: list[Remark]) -> tuple[bytes, str]:
    body, encoding = _decoded(content)
    if b"\x00" in body:
        line = body.count(b"\n", 0, body.index(b"\x00")) + 1
        count = body.count(b"\x00")
        body = body.replace(b"\x00", b"")
        remarks.append(Remark("nul-bytes", said("log-nul-bytes", count=count, line=line), line))
    return _with_plain_line_ends(body), encoding


def _decoded(content: bytes) -> tuple[bytes, str]:
    if content.startswith(b"\xef\xbb\xbf"):
        return _checked_utf8(content[3:], "utf-8-sig")
    if content.startswith((b"\xff\xfe", b"\xfe\xff")):
        name = "utf-16-le" if content.startswith(b"\xff\xfe") else "utf-16-be"
        return content[2:].decode(name, "replace").encode(), name
    head = content[:4096]
    pairs = len(head) // 2
    if pairs >= 8:
        for offset, name in ((1, "utf-16-le"), (0, "utf-16-be")):
            zeros = head[offset : 2 * pairs : 2].count(0)
            others = head[1 - offset : 2 * pairs : 2].count(0)
            if zeros > 0.7 * pairs and others < 0.05 * pairs:
                return content.decode(name, "replace").encode(), name
    return _checked_utf8(content, "utf-8")


def _checked_utf8(content: bytes, name: str) -> tuple[bytes, str]:
    if content.isascii():
        return content, name
    try:
        content.decode()
    except UnicodeDecodeError:
        # The Windows variant of Latin-1; what it leaves open is left out.
        return content.decode("cp1252", "replace").encode(), "latin-1"
    return content, name


def _with_plain_line_ends(body: bytes) -> bytes:
    if b"\r" not in body:
        return body
    body = body.replace(b"\r\r\n", b"\n").replace(b"\r\n", b"\n")
    if b"\r" not in body:
        return body
    # Old files end their lines with \r alone; in others a stray one is dirt.
    return body.replace(b"\r", b"\n" if body.count(b"\r") > body.count(b"\n") else b"")


def _refuse_noise(body: bytes) -> None:
    head = body[:_HEAD]
    control = sum(head.count(byte) for byte in (*range(1, 9), *range(14, 32)))
    if control > 0.05 * len(head):
        raise LogRefusedError(said("this-is-no-text"), code="not-a-log")


def lines_in(body: bytes, start: int, end: int) -> int:
    """How many lines end in a stretch. By whole words of the processor: one by one takes longer than reading the numbers."""
    codes = np.frombuffer(body, dtype=np.uint8)
    at_once = 1 << 20
    return sum(
        int(np.count_nonzero(codes[at : min(at + at_once, end)] == _NEWLINE)) for at in range(start, end, at_once)
    )
