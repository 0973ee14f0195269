"""Packs outside the house: told of, back, mended, called back; and the page that anybody may read."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import Field, StringConstraints

from zembric.api.schemas.base import Id, In, Number, Out, PackState, Told, Typed, UtcOffset
from zembric.core.codes import RecallAbout
from zembric.core.pack.outside import Seen
from zembric.core.pack.states import ReturnDecision

Words = Annotated[str, StringConstraints(max_length=600)]


class ReportIn(In):
    """How a pack does: in words, hours it ran, weeks since it was given out."""

    words: Words = ""
    hours: Typed = ""
    weeks: Typed = ""


class ReturnIn(In):
    """What is wrong with a pack that came back, in the visitor's words; what was seen; group voltages from minus on."""

    words: Words = ""
    seen: list[Seen] = Field(default_factory=list, max_length=20)
    group_volts: list[Typed] = Field(default_factory=list, max_length=40)


class DecideIn(In):
    decision: ReturnDecision


class ExchangeIn(In):
    out: Number
    comes: Number


class MendQuery(In):
    out: Number


class ReturnFindingOut(Out):
    said: Told
    then: Told
    is_danger: bool
    group: int | None


class ReportOut(Out):
    """What was told; of one that came back what was seen, measured, found and decided."""

    kind: Literal["use", "back"]
    at: datetime
    by: str
    words: str
    hours: float | None
    weeks: float | None
    #: How long it was worked out to run when that was told.
    worked_out_h: float | None
    seen: list[Seen]
    group_volts: list[float]
    found: list[ReturnFindingOut]
    decision: ReturnDecision | None


class RecalledOut(Out):
    """A pack that is called back; `cells` are those that fall under it."""

    id: Id
    number: str
    purpose: str
    state: PackState
    given_to: str | None
    cells: list[str]
    why: str
    tell: str
    at: datetime
    settled_at: datetime | None
    settled_how: str | None


class ProvedBeforeOut(Out):
    """What was measured when it was proved before it went out; null: it was let pass."""

    group_volts: list[float]
    full_volts: list[float]
    hours: float | None
    energy_wh: float | None


class OutsideOut(Out):
    """What is known of a pack's life outside; `page` null: nobody may read of it without signing in."""

    proved_before: ProvedBeforeOut | None
    reports: list[ReportOut]
    page: str | None
    recalls: list[RecalledOut]


class MendWayOut(Out):
    number: str
    capacity_mah: float
    resistance_mohm: float | None
    resting_v: float | None
    place: str | None
    hours: float | None


class MendWaysOut(Out):
    out: str
    hours_now: float | None
    ways: list[MendWayOut]


class KeptPromiseOut(Out):
    number: str
    worked_out_h: float
    told_h: float
    share: float


class HowTrueOut(Out):
    promises: list[KeptPromiseOut]
    share: float
    is_off: bool
    times: float
    said: Told


class PromisesOut(Out):
    """How true promises turned out; null: nobody told of any yet."""

    how_true: HowTrueOut | None


class UsedIn(In):
    """By what is looked: a donor, a model or size, words on a donor (batch), a part, a person, or days."""

    about: RecallAbout
    text: Annotated[str, StringConstraints(max_length=100)] = ""
    since: date | None = None
    until: date | None = None
    utc_offset_min: UtcOffset = 0


class CallBackIn(UsedIn):
    why: Words
    tell: Words


class UsedOut(Out):
    number: str
    purpose: str
    state: PackState
    given_to: str | None
    cells: list[str]


class WhereUsedOut(Out):
    packs: list[UsedOut]


class RecallGroupOut(Out):
    id: Id
    about: RecallAbout
    asked: dict[str, Any]
    why: str
    tell: str
    at: datetime
    by: str
    packs: list[RecalledOut]


class RecallsOut(Out):
    recalls: list[RecallGroupOut]


class RecalledPath(In):
    recalled: Id


class SettleIn(In):
    how: Words


class TakeInIn(In):
    """A pack made elsewhere, with what is known of it."""

    purpose: Words
    series: int = Field(ge=1, le=40)
    parallel: int = Field(ge=1, le=40)
    family: Annotated[str, StringConstraints(max_length=40)]
    size_code: Annotated[str, StringConstraints(max_length=40)]
    capacity_mah: Typed
    group_volts: list[Typed] = Field(max_length=40)
    looked_at: bool


class PageTokenPath(In):
    token: Annotated[str, StringConstraints(min_length=8, max_length=100)]


class PublicLeftOut(Out):
    left_pct: int
    loaded_v: float
    resting_v: float


class PublicPackOut(Out):
    """What anybody may read of a pack who has its address: what its card says, its story in short, and whether it is called back."""

    number: str
    purpose: str
    what: list[Told]
    charging: list[Told]
    never: list[Told]
    bring_back: list[Told]
    when_hot: list[Told]
    left: list[PublicLeftOut]
    story: list[Told]
    is_stopped: bool
    notices: list[str]
