"""The closed vocabularies of the records: what a column may say, as types.

Each value is what stands in the database and is never changed once released; words for people stand in the shop. To add a
term: a member here, and a row where its consequence is declared (``shop.events.kinds``, ``shop.runs.kinds``, …); a test holds
the two together.
"""

from __future__ import annotations

from enum import StrEnum
from typing import TypeVar

from reckoner.core.translation import mark
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

    FULL = mark("full")
    CHECK = mark("check")
    EVENT = mark("event")
    CHARACTERISE = mark("characterise")
    COMPARE = mark("compare")
    DIARY = mark("diary")


class SealMeaning(StrEnum):
    """What a sealed signature says."""

    TESTED = mark("tested")
    CHECKED = mark("checked")


class Abuse(StrEnum):
    """What was done to a tool before a step of its diary."""

    DROPPED = mark("dropped")
    THROWN = mark("thrown")
    OVERLOADED = mark("overloaded")
    EXERCISED = mark("exercised")
    OTHER = mark("other")


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

    BEFORE = mark("before")
    AFTER = mark("after")


class ZeroOf(StrEnum):
    """Whose zero was looked at."""

    REFERENCE = "reference"
    POINTER = "pointer"


class ReferenceKind(StrEnum):
    """What tools are compared with. Each kind has its procedure in ``shop.procedures``."""

    METER = mark("meter")
    WEIGHTS = mark("weights")
    GAUGE = mark("force gauge")
    IN_LINE = mark("in line")


class CrossBy(StrEnum):
    """What a reference is held against."""

    WEIGHTS = "weights"
    METER = "meter"
    TOOL = "tool"


class RegisterKind(StrEnum):
    """The kinds of rows in the register, each row versioned."""

    PERSON = mark("person")
    MODEL = mark("model")
    TOOL = mark("tool")
    REFERENCE = mark("reference")
    ATTACHMENT = mark("attachment")
    SHOP = mark("shop")
    WEIGHT = mark("weight")
    SCALE = mark("scale")
    FORCE_GAUGE = mark("force gauge")
    LENGTH = mark("rule or tape")
    LEVEL = mark("level")
    ADAPTER = mark("adapter")
    JOB_CARD = mark("job card")


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
    key; a passphrase that was tried; a seal; a cross-check of a reference; a beam's scale, and a blind repeat on it; a
    result of another laboratory; a review, a line of it settled, its closing; a job that was begun, what was entered in
    it, its end."""

    RUN = mark("run")
    EVENT = mark("event")
    AUDIT = mark("audit")
    VERSION = mark("version")
    CERTIFICATE = mark("certificate")
    WITHDRAWAL = mark("withdrawal")
    KEY = mark("key")
    TRY = mark("try")
    SEAL = mark("seal")
    CROSS_CHECK = mark("cross-check")
    BEAM_SCALE = mark("beam scale")
    BEAM_REPEAT = mark("beam repeat")
    OUTSIDE_RESULT = mark("outside result")
    REVIEW = mark("review")
    REVIEW_MARK = mark("review mark")
    REVIEW_CLOSE = mark("review closed")
    WORK = mark("job begun")
    ENTRY = mark("entry of a job")
    JOB = mark("job")


class ReadingOwner(StrEnum):
    """Whose a reading is that was asked about and kept: the tool's, or that was left open."""

    TOOL = "tool"
    UNSAID = "unsaid"


class Outcome(StrEnum):
    """What signing a run does to its tool."""

    RELEASED = mark("released")
    HELD = mark("held")
    RESTRICTED = mark("restricted")
    RETIRED = mark("retired")
    KEEP_HOLDING = mark("keep holding")
    FULL_RUN = mark("full run")
    CHARACTERISED = mark("characterised")
    COMPARED = mark("compared")
    COMPARISON = mark("comparison")


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


class Right(StrEnum):
    """What a person may do; each is the column of the people's table that holds it."""

    SIGN = "may_sign"
    ADJUST = "may_adjust"
    SECOND = "may_second"
    EDIT = "may_edit"
    ALLOW = "may_allow"
    SETTLE = "may_settle"
    KEEP = "may_keep"
    GRANT = "may_grant"
