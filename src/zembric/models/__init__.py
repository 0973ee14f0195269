"""The tables. Importing this package makes all of them known to SQLAlchemy."""

from zembric.models.base import Base
from zembric.models.cells import CELL_NUMBERS, DONOR_KINDS, DONOR_NUMBERS, PACK_NUMBERS, CellRow, Donor
from zembric.models.entries import Entry, InspectionEntry, ReadingEntry, StepEntry, WithdrawalEntry
from zembric.models.judgements import JudgementRow, RuleSet
from zembric.models.packs import PACK_STATES, Pack, PackCell, PackGroup
from zembric.models.people import ROLES, Invitation, Person, ServerSecret, SignInTry
from zembric.models.places import Place
from zembric.models.record import AnsweredRequest, Happening

__all__ = [
    "CELL_NUMBERS", "DONOR_KINDS", "DONOR_NUMBERS", "PACK_NUMBERS", "PACK_STATES", "ROLES", "AnsweredRequest", "Base",
    "CellRow", "Donor", "Entry", "Happening", "InspectionEntry", "Invitation", "JudgementRow", "Pack", "PackCell",
    "PackGroup", "Person", "Place", "ReadingEntry", "RuleSet", "ServerSecret", "SignInTry", "StepEntry", "WithdrawalEntry",
]  # fmt: skip
