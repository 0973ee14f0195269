"""The mending table of Nettlewick, a town that is on no map: its people, donors, cells and packs, at every point of the way.

Everything goes through the operations, with measurements of simulated cells and a fixed seed.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime, timedelta
from random import Random

from sqlalchemy import select
from sqlalchemy.orm import Session

from zembric.core.house.limits import Family
from zembric.core.measure.simulation import SimulatedCell
from zembric.demo.evening import Evening
from zembric.demo.hands import go_through, prove
from zembric.demo.measuring import instruments_of_the_table, logs_of_testers, two_testers, watched_at_rest
from zembric.demo.pack_plans import parts_for
from zembric.demo.picture import draw_pack
from zembric.demo.testers import testers_on_the_table
from zembric.models import CellModel, Donor, Person, Place
from zembric.operations import donors, people
from zembric.operations.actors import Actor
from zembric.operations.bench import recoveries, whereabouts
from zembric.operations.cells.photos import PhotoStore, add_photo
from zembric.operations.cells.shelf import CellFilter, CellPage, list_cells
from zembric.operations.donors import DonorToOpen
from zembric.operations.known import catalogue
from zembric.operations.matching.proposals import MatchRequest, propose
from zembric.operations.measuring.log_traces import LogStore
from zembric.operations.packing import outside, packs, plans, recalls, taken_in, wishes
from zembric.operations.packing.layouts import keep_layout, propose_layouts
from zembric.operations.packing.plans import PackToKeep
from zembric.operations.papers import labels
from zembric.operations.places import PlaceToMake, make_place, take_stock
from zembric.operations.signing_in import passwords

COORDINATOR = "Oona"
VOLUNTEER = "Tamsin"
_OTHERS = ("Bertil", "Ines")
_SEED = 418
_LAYERED = Family.LAYERED_OXIDE.value


def is_loaded(session: Session) -> bool:
    return session.scalar(select(Person.id).limit(1)) is not None


def load_demo(session: Session, photos: PhotoStore, logs: LogStore, password: str, now: datetime) -> None:
    """Plays five weeks at the mending table, ending just before `now`."""
    chance, cells = Random(_SEED), dict[str, SimulatedCell]()
    start = now - timedelta(days=36)
    oona, tamsin, bertil, ines = (
        _person(session, name, "coordinator" if name == COORDINATOR else "volunteer", password, start)
        for name in (COORDINATOR, VOLUNTEER, *_OTHERS)
    )
    boxes = [
        make_place(
            session, oona, PlaceToMake(f"Shelf box {number}", "shelf-box", capacity=80 if number == 3 else 40), start
        )
        for number in (1, 2, 3)
    ]
    models = _models(session, oona, start)
    _first_evenings(Evening(session, bertil, now - timedelta(days=34), chance, cells), boxes, models)
    _packs_at_work(session, oona, tamsin, now)
    _ticket_printers(Evening(session, tamsin, now - timedelta(days=11, hours=3), chance, cells), boxes[2], models)
    _look_again(Evening(session, bertil, now - timedelta(days=15), chance, cells), session)
    _rested_for_three_weeks(Evening(session, bertil, now - timedelta(days=26), chance, cells), boxes[1], now)
    _vapes(Evening(session, tamsin, now - timedelta(days=12, hours=3), chance, cells))
    _odd_ones(Evening(session, ines, now - timedelta(days=9, hours=4), chance, cells), boxes)
    _in_devices(Evening(session, ines, now - timedelta(days=6, hours=2), chance, cells))
    _paper(session, bertil, boxes[0], now - timedelta(days=5))
    numbers = instruments_of_the_table(session, oona, start)
    two_testers(Evening(session, bertil, now - timedelta(days=8), chance, cells), numbers)
    watched_at_rest(Evening(session, ines, now - timedelta(days=23), chance, cells), numbers, now)
    logs_of_testers(Evening(session, tamsin, now - timedelta(days=4), chance, cells), logs, numbers)
    _tonight(Evening(session, tamsin, now - timedelta(hours=2, minutes=10), chance, cells), photos, now)
    _packs_in_hand(session, oona, bertil, now)
    _planned_pack(session, tamsin, now - timedelta(minutes=35))
    reading_light = MatchRequest(1, 6, Family.LAYERED_OXIDE, "13400")
    testers_on_the_table(session, oona, tamsin, now)
    wishes.make_wish(session, ines, "Reading light for the boathouse", reading_light, now - timedelta(days=2))


def _person(session: Session, name: str, role: str, password: str, at: datetime) -> Actor:
    return passwords.accept_invitation(session, people.add_person(session, name, role, at), name, password, at)


def _models(session: Session, oona: Actor, at: datetime) -> dict[int, CellModel]:
    """Made-up cell models by their rated capacity [mAh]."""
    sheet = "Sample sheet, made up for this demo"
    made = {}
    for name, rated, charge_ma, discharge_ma in (
        ("NW 26", 2600, 2600, 5200),
        ("NW 29", 2900, 2900, 5800),
        ("NW 15 H", 1500, 4000, 20_000),
    ):
        values = {
            "name": name, "size_code": "18650", "family": _LAYERED, "full_v": None, "rated_capacity_mah": rated,
            "cut_off_v": 2.75, "most_charge_ma": charge_ma, "most_discharge_ma": discharge_ma, "source": sheet,
            "sheet_date": at.date(),
        }  # fmt: skip
        made[rated] = catalogue.add_row(session, oona, "models", values, at)
    return made


def _cells(chance: Random, count: int, middle_mah: float, scatter_mah: float, mohm: float) -> list[SimulatedCell]:
    return [
        SimulatedCell(
            capacity_mah=max(300.0, chance.gauss(middle_mah, scatter_mah)),
            dc_resistance_mohm=chance.gauss(mohm, mohm / 12),
            state_of_charge=chance.uniform(0.25, 0.55),
        )
        for _ in range(count)
    ]


def _numbers(donor: Donor) -> list[str]:
    return [cell.number for cell in donor.cells]


def _first_evenings(bench: Evening, boxes: list[Place], models: dict[int, CellModel]) -> None:
    """What fills the shelf: three laptop packs and a pair of hedge shears."""
    for description, count, rated, middle, scatter, mohm in (
        ("School laptop, hinge broken", 6, 2600, 2240, 70, 62),
        ("Parish council laptop, 2013", 8, 2200, 1790, 90, 78),
        ("Library laptop, liquid damage", 9, 2900, 2480, 60, 55),
    ):
        cells = _cells(bench.chance, count, middle, scatter, mohm)
        if rated == 2600:
            # The one bad sibling: emptied by a leak, far below the others.
            cells[4] = SimulatedCell(1400, 190, 0.0, deep_v=1.12)
        if rated == 2200:
            cells[2] = SimulatedCell(1265, 128, 0.4)
            cells[6] = SimulatedCell(1310, 121, 0.4)
        model = models.get(rated)
        donor = bench.open(
            DonorToOpen(
                "laptop",
                description,
                count,
                "18650",
                _LAYERED,
                rated_capacity_mah=rated,
                model_id=model.id if model else None,
            ),
            cells,
        )
        bench.whole_way(_numbers(donor), place_id=boxes[0].id)
        if rated == 2600:
            bench.put_out(_numbers(donor)[4])
    shears = _cells(bench.chance, 5, 1290, 45, 24)
    wanted = DonorToOpen("garden", "Hedge shears pack, cut cable", 5, model_id=models[1500].id)
    bench.whole_way(_numbers(bench.open(wanted, shears)), method="dc-10s", place_id=boxes[1].id)


def _ticket_printers(bench: Evening, box: Place, models: dict[int, CellModel]) -> None:
    """Packs of one make that all aged alike: what large packs are matched from."""
    for number, middle in enumerate((2310, 2260, 2340, 2190, 2280), start=1):
        wanted = DonorToOpen("meter", f"Ticket printer {number} of the harbour ferry", 12, model_id=models[2600].id)
        numbers = _numbers(bench.open(wanted, _cells(bench.chance, 12, middle, 55, 58)))
        bench.whole_way(numbers, place_id=box.id)


def _packs_at_work(session: Session, oona: Actor, tamsin: Actor, now: datetime) -> None:
    logger = _keep(session, tamsin, "Weather logger for the allotment", 1, 4, now - timedelta(days=30))
    _build(session, tamsin, logger, now - timedelta(days=29))
    _move(session, tamsin, logger, now - timedelta(days=29), "built", "given-out")
    outside.open_page(session, tamsin, logger, now - timedelta(days=28))
    told = outside.TypedReport("Empty after a little more than three weeks", hours="540", weeks="3")
    outside.report_use(session, tamsin, logger, told, now - timedelta(days=5))
    counter = _keep(session, tamsin, "Gate counter at the duck pond", 2, 3, now - timedelta(days=28))
    _draw(session, tamsin, counter, now - timedelta(days=28))
    _build(session, oona, counter, now - timedelta(days=27))
    go_through(session, oona, counter, "build", now - timedelta(days=27))
    _move(session, oona, counter, now - timedelta(days=27), "built", "given-out", "back")
    gauge = _keep(session, tamsin, "Tide gauge of the rowing club", 1, 2, now - timedelta(days=26))
    _build(session, oona, gauge, now - timedelta(days=26))
    _move(session, oona, gauge, now - timedelta(days=26), "built", "given-out")
    packs.stop_pack(
        session, tamsin, gauge, "The club says that it got warm in its box over night", now - timedelta(hours=3)
    )


def _draw(session: Session, who: Actor, number: str, at: datetime) -> None:
    """The first proposal, with paper between the groups."""
    pack = packs.get_pack(session, number)
    layout = replace(propose_layouts(session, pack, None)[0].layout, has_spacers=True)
    keep_layout(session, who, pack, layout, pack.version, at)


def _packs_in_hand(session: Session, oona: Actor, bertil: Actor, now: datetime) -> None:
    """One that is being proved, one from before there was Zembric that went apart, and cells that are called back."""
    bell = _keep(session, bertil, "Door bell of the scout hut", 2, 2, now - timedelta(days=4, hours=2))
    _draw(session, bertil, bell, now - timedelta(days=4, hours=2))
    _build(session, bertil, bell, now - timedelta(days=4, hours=1))
    go_through(session, bertil, bell, "build", now - timedelta(days=4, hours=1))
    _move(session, bertil, bell, now - timedelta(days=4), "built")
    prove(session, bertil, bell, now - timedelta(days=3, hours=23), until="load")
    old = taken_in.PackToTakeIn(
        "Barge bell, from before", 1, 2, _LAYERED, "18650", "1800", ("3.62",), looked_at=True
    )  # fmt: skip
    barge = taken_in.take_in(session, bertil, old, now - timedelta(days=13))
    packs.move_pack(
        session, bertil, barge.number, packs.PackMove("taken-apart", barge.version), now - timedelta(days=12)
    )
    asked = recalls.Asked("batch", "School laptop")
    if recalls.where_used(session, asked):
        recalls.call_back(
            session, oona, asked, "Cells of this laptop lost their charge within a month",
            "Do not charge it any more. Bring it by on Thursday, we exchange the cells while you wait.",
            now - timedelta(days=1),
        )  # fmt: skip


_WHO_HAS_IT = {
    "Weather logger for the allotment": "Allotment society, Ilse at the green shed, extension 14",
    "Gate counter at the duck pond": "Parks office, the hatch beside the bandstand",
    "Tide gauge of the rowing club": "Rowing club, Piet: bell at the boat house, or extension 31",
}


def _build(session: Session, who: Actor, number: str, at: datetime) -> None:
    """Picked cell by cell, as the list goes."""
    for _group, member in plans.pick_list(packs.get_pack(session, number)):
        plans.pick_cell(session, who, number, member.cell.number, at)


def _keep(session: Session, who: Actor, purpose: str, series: int, parallel: int, at: datetime) -> str:
    request = MatchRequest(series, parallel, Family.LAYERED_OXIDE, "18650")
    groups = tuple(group.keys for group in propose(session, request, at).best.groups)
    pack = plans.keep_pack(session, who, PackToKeep(purpose, request, groups), at)
    return packs.set_parts(session, who, pack.number, parts_for(purpose), pack.version, at).number


def _move(session: Session, who: Actor, number: str, at: datetime, *states: str) -> None:
    for hours, state in enumerate(states):
        then = at + timedelta(hours=hours)
        pack = packs.get_pack(session, number)
        if state == "given-out":
            prove(session, who, number, then)
        to = _WHO_HAS_IT[pack.purpose] if state == "given-out" else None
        packs.move_pack(session, who, number, packs.PackMove(state, pack.version, given_to=to), then)


def _vapes(bench: Evening) -> None:
    """A bag of single-use vapes: small cells, a swollen and a leaking one, some far enough to be shelved."""
    wanted = DonorToOpen(
        "vape-single-use", "Bag of single-use vapes from the bus stop", 8, "13400", _LAYERED, claimed_capacity_mah=550
    )
    numbers = _numbers(bench.open(wanted, _cells(bench.chance, 8, 505, 24, 95)))
    bench.look(numbers[0], "swollen")
    bench.look(numbers[1], "leaking", "rusted-through")
    bench.look(numbers[2], "tab-remains")
    bench.mend(numbers[2], "tab-remains")
    bench.look(numbers[7], "torn-wrap")
    bench.whole_way(numbers[3:6], method="dc-10s")
    bench.look(numbers[6])


def _odd_ones(bench: Evening, boxes: list[Place]) -> None:
    """What makes a judge earn his keep."""
    claim = bench.open(
        DonorToOpen("toy", "Toy boat with a proud sticker", 1, "603048", _LAYERED, claimed_capacity_mah=3500),
        _cells(bench.chance, 1, 940, 1, 120),
    )
    bench.whole_way(_numbers(claim), method="dc-10s", place_id=boxes[1].id)
    primary = bench.open(
        DonorToOpen("meter", "Door contact of the old school", 2, "14505", Family.PRIMARY.value),
        [SimulatedCell(2400, 300, 0.4), SimulatedCell(2400, 300, 0.4)],
    )
    bench.put_out(_numbers(primary)[0])
    unknown = bench.open(
        DonorToOpen("unknown", "Label maker, no print on the cell", 1, "18650"), _cells(bench.chance, 1, 1300, 1, 60)
    )
    bench.look(_numbers(unknown)[0])
    bench.voltage(_numbers(unknown)[0])
    printer = bench.open(
        DonorToOpen("unknown", "Ticket printer of the ferry", 3, "18650", _LAYERED, rated_capacity_mah=2600),
        [SimulatedCell(2082, 66, 0.4), SimulatedCell(1960, 70, 0.4), SimulatedCell(2010, 69, 0.4)],
    )
    borderline, disagreeing, over = _numbers(printer)
    for number in (borderline, disagreeing):
        bench.look(number)
        bench.voltage(number)
        bench.charge(number)
    bench.look(over)
    bench.cells[over] = SimulatedCell(2000, 70, 1.0, deep_v=4.31)
    bench.voltage(over)
    bench.pause(hours=20)
    bench.capacity(borderline)
    bench.resistance(borderline, "ac-1khz")
    bench.capacity(disagreeing)
    bench.charge(disagreeing)
    bench.pause(hours=18)
    bench.capacity(disagreeing, bias_pct=-9)
    bench.charge(disagreeing)
    bench.pause(hours=18)
    bench.capacity(disagreeing)
    bench.resistance(disagreeing, "tester")


def _rested_for_three_weeks(bench: Evening, box: Place, now: datetime) -> None:
    """Two siblings on the shelf, measured again after three weeks: one keeps its charge, one leaks."""
    wanted = DonorToOpen("unknown", "Video door bell, wall side", 2, "18650", _LAYERED, rated_capacity_mah=2600)
    donor = bench.open(wanted, [SimulatedCell(2230, 60, 0.4), SimulatedCell(2190, 64, 0.4, loss_mv_per_day=11)])
    numbers = _numbers(donor)
    bench.whole_way(numbers, place_id=box.id)
    for days in (2.0, 8.0, 15.0, 21.0):
        bench.now = now - timedelta(days=24 - days)
        for number in numbers:
            bench.voltage(number, days_since_charge=days)


def _in_devices(bench: Evening) -> None:
    """Devices that stay whole: one whose cell lies in a holder and goes on working, one with a board worth keeping."""
    lamp = bench.open(
        DonorToOpen("light", "Reading lamp of the chapel, loose switch", 1, "18650", _LAYERED, rated_capacity_mah=2200),
        _cells(bench.chance, 1, 1980, 1, 70),
    )
    bench.clues(
        lamp, charged_in="holder", charger_kind="linear", charger_k_v=1000, charger_r1_ohm=2000, symptom="unused"
    )
    number = _numbers(lamp)[0]
    bench.look(number)
    bench.voltage(number)
    whereabouts.put_into_use(bench.session, bench.who, number, "Reading lamp of the chapel", bench.now)
    bank = bench.open(
        DonorToOpen("power-bank", "Give-away from the harvest fair", 2, "18650", _LAYERED, claimed_capacity_mah=5000),
        _cells(bench.chance, 2, 1240, 30, 95),
    )
    bench.clues(bank, claimed_v=3.7, claimed_mah=10_000, claimed_wh=37, converter="step-up", symptom="runs-short")
    donors.keep_part(bench.session, bench.who, bank.number, "charger-board", "Charger with step-up, 5 V 1 A", bench.now)
    for number in _numbers(bank):
        bench.look(number)
        bench.voltage(number)


def _paper(session: Session, who: Actor, box: Place, now: datetime) -> None:
    """Labels of the shelf, one of them printed twice, and a count that missed a cell."""
    cells = list_cells(session, CellFilter(place_id=box.id), now, CellPage()).cells
    numbers = [listed.cell.number for listed in cells]
    labels.record_print(session, who, "a4-65", numbers, 1, None, now)
    labels.record_print(session, who, "roll-40x30", numbers[2:3], 1, "Torn off in the tester", now + timedelta(hours=1))
    take_stock(session, who, box, numbers[:4] + numbers[5:], now + timedelta(hours=2))


def _tonight(bench: Evening, photos: PhotoStore, now: datetime) -> None:
    """What is on the table right now: a recovery under its clock, and a tray whose pass stands at the eighth place."""
    robot = bench.open(
        DonorToOpen(
            "garden", "Robot vacuum pack, runs four minutes", 4, "18650", _LAYERED, rated_capacity_mah=2600, parallel=1
        ),
        [
            SimulatedCell(2100, 75, 0.0, deep_v=2.31),
            SimulatedCell(1500, 160, 0.0, deep_v=2.62),
            *_cells(bench.chance, 2, 2150, 40, 66),
        ],
    )
    add_photo(bench.session, photos, bench.who, draw_pack(4), bench.now, robot)
    bench.clues(
        robot, symptom="runs-short", ran_min=45, runs_now_min=4, claimed_v=14.4, claimed_wh=37.4, protection="yes"
    )
    low, failing, *fine = _numbers(robot)
    volts = [f"{bench.cells[number].resting_v(bench.chance):.2f}" for number in (low, failing, *fine)]
    donors.log_groups(bench.session, bench.who, robot.number, 1, volts, bench.now)
    donors.say_taped(bench.session, bench.who, robot.number, bench.now)
    for number in (low, failing, *fine):
        bench.look(number)
        bench.voltage(number)
    bench.recover(failing, passed=False)
    bench.charge(fine[0])
    twelve = bench.open(
        DonorToOpen("laptop", "Two office laptops, one evening", 12, "18650", _LAYERED, rated_capacity_mah=2800),
        _cells(bench.chance, 12, 2300, 80, 70),
        tape=False,
    )
    looked = _numbers(twelve)[:7]
    for number in looked[:5]:
        bench.look_and_measure(number)
    for number in looked[5:]:
        bench.look(number)
    bench.now = now - timedelta(minutes=21)
    recoveries.start_recovery(bench.session, bench.who, low, "130", "21", bench.now)
    look = recoveries.TypedLook("2.68", "22", "cool")
    recoveries.check_recovery(bench.session, bench.who, low, look, bench.now + timedelta(minutes=14))
    bench.now = now - timedelta(minutes=12)
    bench.charge(fine[1])


def _look_again(bench: Evening, session: Session) -> None:
    """The shelf boxes are gone through two weeks after they were filled; the last third is left for another evening."""
    due = list_cells(session, CellFilter(on_shelf=True, step="recheck"), bench.now, CellPage()).cells
    for listed in due[: 2 * len(due) // 3]:
        bench.voltage(listed.cell.number)


def _planned_pack(session: Session, tamsin: Actor, at: datetime) -> None:
    _keep(session, tamsin, "Metronome rack for the choir", 2, 2, at)
