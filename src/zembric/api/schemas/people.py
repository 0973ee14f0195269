"""Errors, people and the door."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import In, Out, RoleCode


class WayOut(Out):
    """A way round a refusal: what a screen can do, and its words."""

    code: str
    text: str


class ProblemOut(Out):
    """Why something was not done. `suggestion` is what could be typed instead."""

    code: str
    text: str
    field: str | None
    suggestion: str | None
    ways: list[WayOut] = Field(default_factory=list)


class PersonOut(Out):
    name: str
    role: RoleCode


class SessionOut(Out):
    """Who is signed in (null: nobody) and the token that every write carries."""

    person: PersonOut | None
    csrf_token: str
    #: What this page is told in, whether that was chosen, and all that could be.
    language: str
    is_language_chosen: bool
    languages: list[str]
    print_language: str


class LanguageIn(In):
    """A language there is; null: what the browser asks for, of prints the usual one."""

    language: Annotated[str, StringConstraints(max_length=20)] | None


class SignInIn(In):
    name: Annotated[str, StringConstraints(max_length=80)]
    password: Annotated[str, Field(max_length=200)]


class PasswordIn(In):
    password: Annotated[str, Field(max_length=200)]


class NewPasswordIn(In):
    old: Annotated[str, Field(max_length=200)]
    new: Annotated[str, Field(max_length=200)]


class PasskeyQuestionOut(Out):
    """What a browser hands to its device, as WebAuthn spells it."""

    options: dict[str, Any]


class PasskeyAnswerIn(In):
    """What the device answered, as WebAuthn spells it."""

    answer: dict[str, Any]


class OpenSignInOut(Out):
    """One device on which one is signed in."""

    id: int
    #: Browser and system; empty where it calls itself nothing known.
    device: str
    begun_at: datetime
    ends_at: datetime
    #: Whether it is the one that asks.
    is_this: bool


class PasskeyOut(Out):
    id: int
    device: str
    host: str
    added_at: datetime
    used_at: datetime | None


class SignInEventOut(Out):
    """Who came in, was refused, or left. `by` null: nobody is known, or it was refused."""

    at: datetime
    what: Literal[
        "sign-in",
        "sign-in-refused",
        "sign-in-ended",
        "sign-in-password-set",
        "sign-in-passkey-added",
        "sign-in-passkey-removed",
    ]
    by: str | None
    device: str
    address: str
    how: str


class MeOut(Out):
    sign_ins: list[OpenSignInOut]
    passkeys: list[PasskeyOut]
    record: list[SignInEventOut]


class InvitationOut(Out):
    name: str


class AcceptIn(In):
    name: Annotated[str, StringConstraints(max_length=80)]
    password: Annotated[str, Field(max_length=200)]


class HealthOut(Out):
    database: Literal["answers", "silent"]
    migrations: Literal["current", "behind", "unknown"]
    #: What is not well, in the order in which it is to be mended; nothing where all is.
    down: list[Literal["database", "migrations", "worker", "runner", "queue", "disk"]]
