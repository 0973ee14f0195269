"""`./zembric person`: who may sign in."""

from __future__ import annotations

import argparse
from datetime import UTC, datetime

from zembric.cli.migrations import migrate
from zembric.cli.run import database_at_hand
from zembric.operations import people
from zembric.operations.database import make_engine, unit_of_work
from zembric.operations.signing_in import sign_ins


def run_person(arguments: argparse.Namespace) -> int:
    """Adds, lists, resets or closes; prints one-time links as the path to add to the address that is served."""
    now = datetime.now(UTC)
    with database_at_hand(arguments.data, "a person is being added") as (url, _photos):
        engine = make_engine(url)
        migrate(engine)
        with unit_of_work(engine) as session:
            match arguments.action:
                case "add":
                    _print_link(arguments.name, people.add_person(session, arguments.name, arguments.role, now))
                case "reset":
                    _print_link(arguments.name, people.invite_again(session, arguments.name, now))
                case "close":
                    people.close_person(session, arguments.name, now)
                    print(f"{arguments.name} can no longer sign in.")
                case "role":
                    sign_ins.change_role(session, arguments.name, arguments.role, now)
                    print(f"{arguments.name} is {arguments.role} from the next sign-in on.")
                case _:
                    for person in people.all_people(session):
                        state = "closed" if person.closed_at else "invited" if person.password_hash is None else "in"
                        print(f"{person.name}\t{person.role}\t{state}")
        engine.dispose()
    return 0


def _print_link(name: str, token: str) -> None:
    print(f"Give {name} this link, it works once: ADDRESS/welcome/{token}")
    print("ADDRESS is what `./zembric start` printed, for example http://127.0.0.1:8420")
