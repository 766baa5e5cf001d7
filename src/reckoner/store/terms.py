"""The closed vocabularies of the records: what a column may say, as types.

Each value is what stands in the database and is never changed once released; words for people stand in the shop. To add a
term: a member here, and a row where its consequence is declared (``shop.events``, ``shop.runs.kinds``, …); a test holds
the two together.
"""

from __future__ import annotations

from enum import StrEnum
from typing import TypeVar

from reckoner.store.errors import TermUnknown

T = TypeVar("T", bound=StrEnum)


def term(of: type[T], word: str) -> T:
    """The member of the vocabulary ``of`` that ``word`` is. Raises TermUnknown."""
    try:
        return of(word)
    except ValueError:
        raise TermUnknown(of.__name__, word) from None


class RunKind(StrEnum):
    """What a run is for."""

    FULL = "full"
    CHECK = "check"
    EVENT = "event"
    CHARACTERISE = "characterise"
    COMPARE = "compare"


class Contrast(StrEnum):
    """What a comparison holds against each other."""

    ADAPTER = "adapter"
    ADAPTERS = "adapters"
    PEOPLE = "people"
    GRIPS = "grips"
    CHANGE = "change"


class PhaseKind(StrEnum):
    """What the series of a run are taken for."""

    CAME = "came"
    FOUND = "found"
    ADJUST = "adjust"
    LEFT = "left"
    MEASURE = "measure"


class ObservationKind(StrEnum):
    """What was observed: a value, what the tool's own display showed of one, that the tool signalled or stayed silent at a
    known torque, or that it was pulled to a torque without any signal."""

    VALUE = "value"
    SHOWN = "shown"
    CLICKED = "clicked"
    SILENT = "silent"
    NO_SIGNAL = "no signal"


class Source(StrEnum):
    """How a value came."""

    TRACE = "meter trace"
    METER = "meter value"
    TOOL = "tool value"
    STORED = "stored value"
    TYPED = "typed"


class RoomSource(StrEnum):
    """Who told what the room is; ``EARLIER``: it was looked at for another run, not long before."""

    TYPED = "typed"
    METER = "meter"
    EARLIER = "earlier"


class ZeroMoment(StrEnum):
    """When a zero was looked at: before the readings or after them."""

    BEFORE = "before"
    AFTER = "after"


class ZeroOf(StrEnum):
    """Whose zero was looked at."""

    REFERENCE = "reference"
    POINTER = "pointer"


class ReferenceKind(StrEnum):
    """What tools are compared with. Each kind has its procedure in ``shop.procedures``."""

    METER = "meter"
    WEIGHTS = "weights"
    GAUGE = "force gauge"


class CrossBy(StrEnum):
    """What a reference is held against."""

    WEIGHTS = "weights"
    METER = "meter"
    TOOL = "tool"


class RegisterKind(StrEnum):
    """The kinds of rows in the register, each row versioned."""

    PERSON = "person"
    MODEL = "model"
    TOOL = "tool"
    REFERENCE = "reference"
    ATTACHMENT = "attachment"
    SHOP = "shop"
    WEIGHT = "weight"
    SCALE = "scale"
    FORCE_GAUGE = "force gauge"
    LENGTH = "rule or tape"
    LEVEL = "level"
    ADAPTER = "adapter"
    JOB_CARD = "job card"


class GearKind(StrEnum):
    """What stands beside meters."""

    WEIGHT = "weight"
    SCALE = "scale"
    FORCE_GAUGE = "force gauge"
    LENGTH = "length"
    LEVEL = "level"
    ADAPTER = "adapter"


class LinkKind(StrEnum):
    """What a link of the chain of digests is over (``store.chain``): a run that is over, with all that was taken in it; an
    event; a line of the audit trail; a version of the register; a reference's certificate, and its withdrawal; a person's
    key; a seal; a cross-check of a reference; a beam's scale, and a blind repeat on it; a result of another laboratory; a
    review, a line of it settled, its closing; a job that is over, with all that was done in it."""

    RUN = "run"
    EVENT = "event"
    AUDIT = "audit"
    VERSION = "version"
    CERTIFICATE = "certificate"
    WITHDRAWAL = "withdrawal"
    KEY = "key"
    SEAL = "seal"
    CROSS_CHECK = "cross-check"
    BEAM_SCALE = "beam scale"
    BEAM_REPEAT = "beam repeat"
    OUTSIDE_RESULT = "outside result"
    REVIEW = "review"
    REVIEW_MARK = "review mark"
    REVIEW_CLOSE = "review closed"
    JOB = "job"


class Whose(StrEnum):
    """Whose a reading is that was asked about and kept: the tool's, or that was left open."""

    TOOL = "tool"
    UNSAID = "unsaid"


class Outcome(StrEnum):
    """What signing a run does to its tool."""

    RELEASED = "released"
    HELD = "held"
    RESTRICTED = "restricted"
    RETIRED = "retired"
    KEEP_HOLDING = "keep holding"
    FULL_RUN = "full run"
    CHARACTERISED = "characterised"
    COMPARED = "compared"
    COMPARISON = "comparison"


class EventKind(StrEnum):
    """What can happen to a tool outside a run, or follow from one."""

    HELD = "held"
    RELEASED = "released"
    FELL = "fell"
    OVERLOADED = "overloaded"
    NO_SIGNAL = "does not signal"
    FELT_WRONG = "felt wrong"
    USED_TO_LOOSEN = "used to loosen"
    STORED_WOUND_UP = "stored wound up"
    LOCK_LOOSE = "lock loose"
    REPAIRED = "repaired"
    LENT_OUTSIDE = "lent outside"
    SEAL_BROKEN = "seal broken"
    ADJUSTED = "adjusted"
    LENT = "lent"
    RETURNED = "returned"
    SENT_AWAY = "sent away"
    CAME_BACK = "came back"
    RESTRICTED = "restricted"
    UNRESTRICTED = "unrestricted"
    KEPT = "kept as evidence"
    KEPT_NO_MORE = "no longer evidence"
    RETIRED = "retired"
    BACK_IN_SERVICE = "back in service"
    NOTED = "noted"
    MISTAKEN = "recorded by mistake"
    BROUGHT_IN = "brought in"
    BROUGHT_FORWARD = "brought forward"
    COUNTED = "cycles counted"
    CORRECTED = "used with correction"
    CORRECTED_NO_MORE = "no longer with correction"
