"""Parses the command line. Verbs import what they need when they run, so that each starts quickly."""

from __future__ import annotations

import argparse
import os
import sys
from pathlib import Path

from zembric.cli.problems import CannotStartError
from zembric.core.errors import ZembricError

REFUSED = 2
INTERRUPTED = 130


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="./zembric", description="The workbench companion of a repair cafe.")
    verbs = parser.add_subparsers(dest="verb", required=True)

    demo = verbs.add_parser("demo", help="made-up data, on this computer only")
    demo.add_argument("--port", type=int, help="port to serve on (default: 8420, or a free one)")
    demo.add_argument("--fresh", action="store_true", help="throw the demo's data away and make it anew")

    start = verbs.add_parser("start", help="real use")
    start.add_argument("--port", type=int, help="port to serve on (default: 8420, or a free one)")
    start.add_argument("--host", default="127.0.0.1", help="address to serve on (default: this computer only)")
    start.add_argument("--data", type=Path, help="data directory (default: a named one; see the output)")
    start.add_argument("--proxies", type=int, default=0, help="how many proxies stand in front of it (default: none)")

    person = verbs.add_parser("person", help="who may sign in")
    person.add_argument("--data", type=Path, help="data directory, as for start")
    actions = person.add_subparsers(dest="action", required=True)
    add = actions.add_parser("add", help="let somebody in; prints a one-time link")
    add.add_argument("name")
    add.add_argument("--role", choices=("volunteer", "coordinator"), default="volunteer")
    actions.add_parser("list", help="who there is")
    reset = actions.add_parser("reset", help="a new one-time link for somebody")
    reset.add_argument("name")
    role = actions.add_parser("role", help="what somebody may do from their next sign-in on")
    role.add_argument("name")
    role.add_argument("role", choices=("volunteer", "coordinator"))
    close = actions.add_parser("close", help="end somebody's sign-in; what they said stays")
    close.add_argument("name")
    for action in actions.choices.values():
        # Where people look for it; said before the action it holds too.
        action.add_argument("--data", type=Path, default=argparse.SUPPRESS, help="data directory, as for start")

    backup = verbs.add_parser("backup", help="writes database, photos and logs into one file")
    what = backup.add_mutually_exclusive_group(required=True)
    what.add_argument("file", type=Path, metavar="FILE", nargs="?")
    what.add_argument("--nightly", action="store_true", help="into backups/ of the data directory, the last 14 kept")
    what.add_argument("--check", type=Path, metavar="FILE", help="restores a backup aside and proves that it is whole")
    restore = verbs.add_parser("restore", help="brings a backup into an empty place")
    restore.add_argument("file", type=Path, metavar="FILE")
    for kept in (backup, restore):
        kept.add_argument("--data", type=Path, help="data directory, as for start")
        kept.add_argument(
            "--passphrase-file", type=Path, metavar="FILE", help="seals it, or opens a sealed one, by gpg"
        )

    doctor = verbs.add_parser("doctor", help="says what is wrong and how to mend it")
    doctor.add_argument("--data", type=Path, help="data directory, as for start")

    audit = verbs.add_parser("audit", help="known faults of the packages it rests on")
    audit.add_argument("--report", type=Path, metavar="FILE", help="writes what was found there as well")
    verbs.add_parser("renew-locks", help="for developers: newer versions into all lock files")
    verbs.add_parser("describe", help="for developers: writes the API's description and the front end's types anew")

    test = verbs.add_parser("test", help="every check and every test", add_help=False)
    test.add_argument("pytest_arguments", nargs=argparse.REMAINDER)
    return parser


def _told(error: CannotStartError | ZembricError) -> str:
    from zembric.wording import say

    return say(error.said) if isinstance(error, ZembricError) else str(error)


FILE_VERBS = ("size", "analyse", "sums", "judge", "match", "packrun", "evening")


def _backups(arguments: argparse.Namespace) -> int:
    from zembric.cli.backup import run_backup, run_check, run_nightly_backup, run_restore

    if arguments.verb == "restore":
        return run_restore(arguments.file, arguments.data, arguments.passphrase_file)
    if arguments.check:
        return run_check(arguments.check, arguments.passphrase_file)
    if arguments.nightly:
        return run_nightly_backup(arguments.data, arguments.passphrase_file)
    return run_backup(arguments.file, arguments.data, arguments.passphrase_file)


def main(argv: list[str]) -> int:
    if argv and argv[0] in FILE_VERBS:
        from zembric.cli.file_verbs import run_file_verb

        return run_file_verb(argv[0], argv[1:])
    if argv[:1] == ["test"] and argv[1:2] != ["--"]:
        argv = ["test", "--", *argv[1:]]  # what follows is pytest's, options too
    arguments = _parser().parse_args(argv)
    try:
        match arguments.verb:
            case "demo":
                from zembric.cli.run import run_demo

                return run_demo(arguments.port, fresh=arguments.fresh)
            case "start":
                from zembric.cli.run import run_start

                return run_start(arguments.host, arguments.port, arguments.data, arguments.proxies)
            case "audit" | "renew-locks":
                from zembric.cli.dependencies import run_audit, run_renew_locks

                return run_audit(arguments.report) if arguments.verb == "audit" else run_renew_locks()
            case "person":
                from zembric.cli.person import run_person

                return run_person(arguments)
            case "backup" | "restore":
                return _backups(arguments)
            case "doctor":
                from zembric.cli.doctor import run_doctor

                return run_doctor(arguments.data)
            case "describe":
                from zembric.cli.describe import run_describe

                return run_describe()
            case _:
                from zembric.cli.checks import run_checks

                return run_checks(arguments.pytest_arguments)
    except (CannotStartError, ZembricError) as error:
        print(f"zembric: {_told(error)}", file=sys.stderr)
        return REFUSED
    except KeyboardInterrupt:
        return INTERRUPTED


if __name__ == "__main__":
    ended = main(sys.argv[1:])
    if sys.argv[1:] and sys.argv[1] in FILE_VERBS:
        # All is said; giving back a long log's memory piece by piece would take as long as reading a part of it.
        sys.stderr.flush()
        sys.stdout.flush()
        os._exit(ended)
    sys.exit(ended)
