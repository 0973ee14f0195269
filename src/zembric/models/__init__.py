"""The tables. Importing this package makes all of them known to SQLAlchemy."""

from zembric.models.base import Base
from zembric.models.catalogue import CellFormat, CellModel, Chemistry, DonorKindRow, PackPartKind, TraySize
from zembric.models.cells import CELL_NUMBERS, PACK_NUMBERS, CellRow
from zembric.models.donors import DONOR_NUMBERS, Donor, GroupReading, Part, Photo
from zembric.models.entries import Entry, InspectionEntry, ReadingEntry, StepEntry, WithdrawalEntry
from zembric.models.instruments import INSTRUMENT_KINDS, INSTRUMENT_NUMBERS, Correction, Instrument
from zembric.models.judgements import JudgementRow, RuleSet
from zembric.models.logs import LogHabit, LogRow
from zembric.models.matching import SEARCH_STATES, MatchSearch, Wish
from zembric.models.packs import (
    PACK_STATES,
    Pack,
    PackCell,
    PackGroup,
    PackPage,
    PackPart,
    PackReport,
    PackStep,
    PackWaiver,
    Recall,
    RecalledPack,
    ReportKind,
    StepStage,
    StepState,
)
from zembric.models.papers import LabelPrint, ListImport, StockTake
from zembric.models.people import ROLES, House, Invitation, Person, ServerSecret
from zembric.models.places import PLACE_NUMBERS, Place
from zembric.models.record import AnsweredRequest, Happening
from zembric.models.signing_in import Passkey, SignIn, SignInTry
from zembric.models.standing import Standing
from zembric.models.testers import (
    LIVE_STATES,
    SLOT_NUMBERS,
    AlarmRow,
    EveningRow,
    LineTry,
    Presence,
    PushKey,
    PushSubscription,
    RunRow,
    Slot,
    SlotRun,
    WiredTester,
)

__all__ = [
    "CELL_NUMBERS",
    "DONOR_NUMBERS",
    "INSTRUMENT_KINDS",
    "INSTRUMENT_NUMBERS",
    "LIVE_STATES",
    "PACK_NUMBERS",
    "PACK_STATES",
    "PLACE_NUMBERS",
    "ROLES",
    "SEARCH_STATES",
    "SLOT_NUMBERS",
    "AlarmRow",
    "AnsweredRequest",
    "Base",
    "CellFormat",
    "CellModel",
    "CellRow",
    "Chemistry",
    "Correction",
    "Donor",
    "DonorKindRow",
    "Entry",
    "EveningRow",
    "GroupReading",
    "Happening",
    "House",
    "InspectionEntry",
    "Instrument",
    "Invitation",
    "JudgementRow",
    "LabelPrint",
    "LineTry",
    "ListImport",
    "LogHabit",
    "LogRow",
    "MatchSearch",
    "Pack",
    "PackCell",
    "PackGroup",
    "PackPage",
    "PackPart",
    "PackPartKind",
    "PackReport",
    "PackStep",
    "PackWaiver",
    "Part",
    "Passkey",
    "Person",
    "Photo",
    "Place",
    "Presence",
    "PushKey",
    "PushSubscription",
    "ReadingEntry",
    "Recall",
    "RecalledPack",
    "ReportKind",
    "RuleSet",
    "RunRow",
    "ServerSecret",
    "SignIn",
    "SignInTry",
    "Slot",
    "SlotRun",
    "Standing",
    "StepEntry",
    "StepStage",
    "StepState",
    "StockTake",
    "TraySize",
    "WiredTester",
    "Wish",
    "WithdrawalEntry",
]  # fmt: skip
