"""Donors: opening one, what its print and board tell, its parts, and a pack whose cells are still joined."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from sqlalchemy import ColumnElement, func, or_, select
from sqlalchemy.orm import selectinload

from zembric.core.errors import (
    BadInputError,
    ChangedMeanwhileError,
    ConflictError,
    DangerError,
    NotFoundError,
)
from zembric.core.house import limits
from zembric.core.house.limits import CELL_MOST_MAH, Family
from zembric.core.identify.claims import ask_about_rated
from zembric.core.identify.donor_clues import SYMPTOMS
from zembric.core.identify.donor_kinds import NOT_FOR_THIS_TABLE
from zembric.core.identify.families import check_marked_full_v
from zembric.core.identify.numbering import make_number
from zembric.core.identify.numbering import read_number as read_thing_number
from zembric.core.measure.entry_checks import KnownOfCell, check_voltage, read_number
from zembric.core.said import Amount, plain, said
from zembric.core.words import unit_of
from zembric.models import (
    CELL_NUMBERS,
    DONOR_NUMBERS,
    CellModel,
    CellRow,
    Donor,
    DonorKindRow,
    GroupReading,
    JudgementRow,
    Part,
    Person,
)
from zembric.models.donors import CHARGED_IN, CHARGER_KINDS, CONVERTERS, PART_KINDS, YES_NO_UNKNOWN
from zembric.operations.cells.in_place import in_place_of
from zembric.operations.cells.judged import rejudge
from zembric.operations.known.catalogue import get_model, resolve_size
from zembric.operations.known.rules import rules_in_force
from zembric.operations.places import LARGEST_TRAY, room_in_tray
from zembric.operations.record import note

if TYPE_CHECKING:
    from collections.abc import Sequence
    from datetime import datetime

    from sqlalchemy.orm import Session

    from zembric.operations.actors import Actor

DESCRIPTION_MOST = 200
_CHOICES = {
    "symptom": SYMPTOMS, "charger_kind": CHARGER_KINDS, "protection": YES_NO_UNKNOWN,
    "temperature_sensor": YES_NO_UNKNOWN, "converter": CONVERTERS, "charged_in": CHARGED_IN,
}  # fmt: skip
# What a figure of a donor can be: least (excluded where 0) and most.
_RANGES = {
    "ran_min": (0, 100_000), "runs_now_min": (0, 100_000), "claimed_v": (0, 100), "claimed_wh": (0, 5000),
    "claimed_mah": (0, 500_000), "charger_k_v": (0, 5000), "charger_r1_ohm": (0, 1_000_000), "charger_r2_ohm": (0, 1_000_000),
    "protection_cut_off_v": (0, 5), "protection_release_v": (0, 5),
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class DonorToOpen:
    """What is known of a dead device before its cells are out; None where it is not known."""

    kind: str
    description: str
    cells: int
    size_code: str | None = None
    family: str | None = None
    full_v: float | None = None
    claimed_capacity_mah: float | None = None
    rated_capacity_mah: float | None = None
    model_id: int | None = None
    tray_size_id: int | None = None
    #: Cells in each group of the pack, in the order they are numbered; None: not a joined pack, or not known.
    parallel: int | None = None
    #: A rated value that hardly fits was looked at once more.
    confirmed: bool = False


def open_donor(session: Session, actor: Actor, wanted: DonorToOpen, now: datetime) -> Donor:
    """Makes the donor and its cells, each with a number, a place in a tray and a first judgement.

    Raises:
        BadInputError: an unknown kind or family, a size nobody understands, or a number of cells outside 1 to 40.
        OddInputError: a rated value that hardly fits the size, and not confirmed.
        DangerError: a kind of device that is not for volunteers.
    """
    kind = get_kind(session, wanted.kind)
    model = get_model(session, wanted.model_id) if wanted.model_id else None
    facts = _facts(session, wanted, model)
    donor = Donor(
        number=make_number("donor", session.scalar(DONOR_NUMBERS)),
        kind=kind.code,
        kind_row=kind,
        description=wanted.description.strip(),
        opened_at=now,
        opened_by_id=actor.person_id,
    )
    tray, slots = room_in_tray(session, wanted.cells, wanted.tray_size_id)
    numbers = [make_number("cell", session.scalar(CELL_NUMBERS)) for _ in slots]
    parallel = wanted.parallel
    cells = [
        CellRow(
            number=number, donor=donor, place=tray, slot=slot, model=model,
            group_number=index // parallel + 1 if parallel else None, **facts,
        )
        for index, (number, slot) in enumerate(zip(numbers, slots, strict=True))
    ]  # fmt: skip
    session.add(donor)
    session.add_all(cells)
    session.flush()
    for cell in cells:
        rejudge(session, cell, now)
    note(session, actor, "donor-opened", now, donor_id=donor.id, cells=[cell.number for cell in cells])
    return donor


def get_donor(session: Session, typed: str) -> Donor:
    number = read_thing_number("donor", typed)
    donor = session.scalar(
        select(Donor)
        .where(Donor.number == number)
        .options(
            selectinload(Donor.cells).joinedload(CellRow.judgement), selectinload(Donor.cells).joinedload(CellRow.place)
        )
    )
    if donor is None:
        raise NotFoundError(said("there-is-no-donor", number=number))
    return donor


def get_kind(session: Session, code: str) -> DonorKindRow:
    """A kind of device by its code.

    Raises:
        DangerError: a kind that is not for volunteers; tells where to go instead.
        BadInputError: there is no such kind, or it is no longer used.
    """
    turned_away = NOT_FOR_THIS_TABLE.get(code)
    if turned_away:
        raise DangerError(
            said("not-for-this-table", turned_away=turned_away.name, instead=turned_away.instead), field="kind"
        )
    kind = session.get(DonorKindRow, code)
    if kind is None or not kind.is_active:
        raise BadInputError(said("is-not-kind-of-device-here", code=code), field="kind")
    return kind


#: Steps at which nobody has to do anything for a cell.
_AT_REST = ("keep", "rest", "fire-safe-box", "out-box")


@dataclass(frozen=True, slots=True)
class DonorFilter:
    """Which donors to list; empty: no restriction. `text` stands in its description, its number or its opener's name."""

    text: str = ""
    kind: str | None = None
    #: Only those with a cell whose next step somebody can do now, or only those with none.
    has_work: bool | None = None
    #: Only donors opened before this one, by its number.
    before: str | None = None


PAGE_OF_DONORS = 30


def listed_donors(session: Session, wanted: DonorFilter) -> tuple[Sequence[tuple[Donor, int]], int]:
    """A page of donors, the newest first, each with its number of cells; and how many there are in all."""
    conditions: list[ColumnElement[bool]] = []
    text = wanted.text.strip()
    if text:
        opener = select(Person.id).where(
            Person.id == Donor.opened_by_id, Person.name.icontains(text, autoescape=True)
        )  # fmt: skip
        said = Donor.description.icontains(text, autoescape=True)
        conditions.append(or_(said, Donor.number == text.upper(), opener.exists()))
    if wanted.kind:
        conditions.append(Donor.kind == wanted.kind)
    if wanted.has_work is not None:
        at_work = (
            select(CellRow.id)
            .join(JudgementRow, JudgementRow.id == CellRow.judgement_id)
            .where(
                CellRow.donor_id == Donor.id, CellRow.handed_over_at.is_(None), JudgementRow.next_step.not_in(_AT_REST)
            )
            .exists()
        )
        conditions.append(at_work if wanted.has_work else ~at_work)
    count = session.scalar(select(func.count()).select_from(Donor).where(*conditions)) or 0
    if wanted.before:
        conditions.append(Donor.id < select(Donor.id).where(Donor.number == wanted.before).scalar_subquery())
    counted = select(CellRow.donor_id, func.count().label("cells")).group_by(CellRow.donor_id).subquery()
    rows = session.execute(
        select(Donor, counted.c.cells)
        .join(counted, counted.c.donor_id == Donor.id)
        .where(*conditions)
        .order_by(Donor.id.desc())
        .limit(PAGE_OF_DONORS)
    )
    return [(donor, cells) for donor, cells in rows], count


def set_clues(
    session: Session, actor: Actor, typed: str, seen_version: int, clues: dict[str, Any], now: datetime
) -> Donor:
    """What the donor's print, board and failure tell; only what is given is changed.

    Raises:
        ChangedMeanwhileError: somebody changed it after it was seen.
        BadInputError: a figure or choice that cannot be.
    """
    donor = get_donor(session, typed)
    if donor.version != seen_version:
        raise ChangedMeanwhileError(said("this-donor", donor=donor.number))
    for key, value in clues.items():
        if value is None:
            continue
        if key in _CHOICES and value not in _CHOICES[key]:
            raise BadInputError(said("is-not-one-of-the-choices", value=value, choices=tuple(_CHOICES[key])), field=key)
        least, most = _RANGES.get(key, (0, 0))
        if key in _RANGES and not (least < value <= most or (value == 0 and key == "runs_now_min")):
            unit = unit_of(key)
            raise BadInputError(
                said("cannot-be-above-least-to-most", value=plain(value), unit=unit, least=least, most=plain(most)),
                field=key,
            )
    before = {key: getattr(donor, key) for key in clues}
    for key, value in clues.items():
        setattr(donor, key, value)
    _check_pairs(donor)
    advice = in_place_of(donor, rules_in_force(session))
    if advice is not None and advice.is_refused:
        raise DangerError(advice.said, code="board-too-strong", field="charged_in")
    if before != clues:
        note(session, actor, "donor-clues", now, donor_id=donor.id, before=before, after=clues)
    session.flush()
    return donor


def say_taped(session: Session, actor: Actor, typed: str, now: datetime) -> Donor:
    """All open ends of this donor are taped; said twice, the first time stands."""
    donor = get_donor(session, typed)
    if donor.taped_at is None:
        donor.taped_at, donor.taped_by_id = now, actor.person_id
        note(session, actor, "taped", now, donor_id=donor.id)
        session.flush()
    return donor


def keep_part(session: Session, actor: Actor, typed: str, kind: str, description: str, now: datetime) -> Part:
    """A good part of the donor is kept for another job."""
    donor = get_donor(session, typed)
    if kind not in PART_KINDS:
        raise BadInputError(said("is-not-kind-of-part", kind=kind), field="kind")
    if len(description) > DESCRIPTION_MOST:
        raise BadInputError(
            said("keep-description-under-characters", description=DESCRIPTION_MOST), field="description"
        )
    part = Part(donor_id=donor.id, kind=kind, description=description.strip(), kept_at=now, kept_by_id=actor.person_id)
    session.add(part)
    session.flush()
    note(session, actor, "part-kept", now, donor_id=donor.id, part=part.id, kind=kind)
    return part


def take_part(session: Session, actor: Actor, part_id: int, why: str, now: datetime) -> Part:
    """A kept part was used, or turned out to be bad."""
    part = session.get(Part, part_id, with_for_update=True)
    if part is None:
        raise NotFoundError(said("there-is-no-such-part"))
    if part.gone_at:
        raise ConflictError(said("somebody-took-this-part-already"))
    if not 3 <= len(why.strip()) <= DESCRIPTION_MOST:
        raise BadInputError(said("say-in-few-words-what"), field="why")
    part.gone_at, part.gone_why = now, why.strip()
    note(session, actor, "part-taken", now, donor_id=part.donor_id, part=part.id, why=why.strip())
    return part


def parts_of(session: Session, donor: Donor | None = None) -> Sequence[tuple[Part, Donor]]:
    """The parts of a donor, or of all donors those that are here."""
    query = select(Part, Donor).join(Donor, Donor.id == Part.donor_id).order_by(Part.id.desc())
    query = query.where(Part.donor_id == donor.id) if donor else query.where(Part.gone_at.is_(None))
    return [(part, of) for part, of in session.execute(query)]


def log_groups(
    session: Session, actor: Actor, typed: str, parallel: int, voltages: Sequence[str], now: datetime
) -> GroupReading:
    """Voltages over the groups of a pack that is still joined, from minus to plus.

    Raises:
        BadInputError: a voltage no group has, or groups that do not make up the donor's cells.
    """
    donor = get_donor(session, typed)
    values = [read_number(text, "voltage", f"voltages.{index}") for index, text in enumerate(voltages)]
    for index, value in enumerate(values):
        try:
            check_voltage(value, KnownOfCell(), rules_in_force(session))
        except BadInputError as error:
            raise BadInputError(
                said("of-group", group=index + 1, wrong=error.said),
                field=f"voltages.{index}",
                suggestion=error.suggestion,
            ) from error
    if len(values) * parallel != len(donor.cells):
        raise BadInputError(
            said(
                "groups-of-are-cells",
                count=len(values),
                parallel=parallel,
                told=len(values) * parallel,
                known=len(donor.cells),
            ),
            field="parallel",
        )
    reading = GroupReading(
        donor_id=donor.id, at=now, person_id=actor.person_id, parallel=parallel, voltages_v=list(values)
    )
    session.add(reading)
    for index, cell in enumerate(donor.cells):
        cell.group_number = index // parallel + 1
    note(session, actor, "groups-logged", now, donor_id=donor.id, voltages_v=values, parallel=parallel)
    session.flush()
    session.refresh(reading)
    return reading


def last_groups(session: Session, donor_id: int) -> GroupReading | None:
    query = select(GroupReading).where(GroupReading.donor_id == donor_id).order_by(GroupReading.id.desc())
    return session.scalar(query.limit(1))


# --- Checks ----------------------------------------------------------------------------------------------------------


def _facts(session: Session, wanted: DonorToOpen, model: CellModel | None) -> dict[str, Any]:
    """What its cells are; raises BadInputError for the first thing that cannot be."""
    if len(wanted.description) > DESCRIPTION_MOST:
        raise BadInputError(
            said("keep-description-under-characters", description=DESCRIPTION_MOST), field="description"
        )
    if not 1 <= wanted.cells <= LARGEST_TRAY:
        raise BadInputError(said("about-1-to-cells-can-be-numbered", largest_tray=LARGEST_TRAY), field="cells")
    if wanted.parallel is not None and (wanted.parallel < 1 or wanted.cells % wanted.parallel):
        raise BadInputError(
            said("cells-do-not-make-groups-of", cells=wanted.cells, parallel=wanted.parallel), field="parallel"
        )
    if wanted.family is not None and wanted.family not in set(Family):
        raise BadInputError(said("is-no-family-of-a-donor", family=wanted.family), field="family")
    check_marked_full_v(wanted.family, wanted.full_v)
    for field in ("claimed_capacity_mah", "rated_capacity_mah"):
        value = getattr(wanted, field)
        if value is not None and not 0 < value <= CELL_MOST_MAH.value:
            raise BadInputError(
                said("capacity-in-mah-lies-between-1", cell_most=Amount(CELL_MOST_MAH.value, "")), field=field
            )
    if model:
        return {
            "size_code": model.size_code, "family": model.family, "full_v": model.full_v,
            "rated_capacity_mah": model.rated_capacity_mah, "claimed_capacity_mah": wanted.claimed_capacity_mah,
        }  # fmt: skip
    size = resolve_size(session, wanted.size_code)
    if size.is_primary and wanted.family != Family.PRIMARY:
        raise BadInputError(
            said("print-of-primary-choose-it", typed=(wanted.size_code or "").strip()),
            field="family",
        )
    family = Family(wanted.family) if wanted.family else None
    rules = rules_in_force(session).for_kind(family, size.code)
    ask_about_rated(size.size, family, wanted.rated_capacity_mah, rules, confirmed=wanted.confirmed)
    return {
        "family": wanted.family, "full_v": wanted.full_v, "rated_capacity_mah": wanted.rated_capacity_mah,
        "claimed_capacity_mah": wanted.claimed_capacity_mah, **size.columns(),
    }  # fmt: skip


def _check_pairs(donor: Donor) -> None:
    """What has to fit together: run times, and a protection that releases above its cut-off."""
    if donor.ran_min is not None and donor.runs_now_min is not None and donor.runs_now_min > donor.ran_min:
        raise BadInputError(said("it-runs-longer-now"), field="ran_min")
    cut_off_v, release_v = donor.protection_cut_off_v, donor.protection_release_v
    if cut_off_v is not None and release_v is not None and release_v < cut_off_v:
        raise BadInputError(said("protection-releases-above-voltage-it-cuts"), field="protection_release_v")
    if cut_off_v is not None and cut_off_v > limits.CELL_MOST_V.value:
        raise BadInputError(said("give-cut-off-for-one-cell"), field="protection_cut_off_v")
