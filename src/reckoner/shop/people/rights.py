"""What a person may do, which right each command of the shop wants (``COMMANDS``), and asking for it before it does anything.

To add a right: a member of ``store.terms.Right`` named as its column of the people's table, that column, and its words in
``RIGHT_WORDS``. To add a command: ``@command`` over it, and its row in ``COMMANDS``.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import TYPE_CHECKING, Any, ParamSpec, TypeVar, cast

from sqlalchemy import select

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.store.schema import Person
from reckoner.store.terms import Right

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

P = ParamSpec("P")
T = TypeVar("T")

RIGHT_WORDS: dict[Right, str] = {
    Right.SIGN: tr("sign a run"),
    Right.ADJUST: tr("adjust tools"),
    Right.SECOND: tr("stand beside a signature"),
    Right.EDIT: tr("change the register"),
    Right.ALLOW: tr("allow what departs from a rule"),
    Right.SETTLE: tr("settle what was spoiled"),
    Right.KEEP: tr("take in files, archive, restore"),
    Right.GRANT: tr("say what others may do"),
}
"""Each completes "may not …"."""

HERE = None
"""Whoever works here may do it: test, read, lend, report."""

COMMANDS: dict[str, Right | None] = {
    "beamscales.keep": HERE,
    "beamscales.repeat": HERE,
    "events.recording.report": HERE,
    "events.recording.withdraw": HERE,
    "people.seals.set_passphrase": HERE,
    "people.seals.sit_down": HERE,
    "planning.workload.bring_forward": Right.EDIT,
    "records.importing.take_handed": Right.KEEP,
    "records.importing.take_loans": Right.KEEP,
    "records.importing.take_results": Right.KEEP,
    "records.importing_exchange.take_over": Right.KEEP,
    "records.saving.note_saved": HERE,
    "records.storage.archive": Right.KEEP,
    "references.crosschecks.cross_check": HERE,
    "references.crossruns.begin": HERE,
    "references.crossruns.close": HERE,
    "references.crossruns.give_up": HERE,
    "references.crossruns.read": HERE,
    "references.crossruns.strike": HERE,
    "references.trust.trust": Right.EDIT,
    "register.adding.add_meter": Right.EDIT,
    "register.adding.add_model": Right.EDIT,
    "register.adding.add_person": Right.EDIT,
    "register.adding.add_tools": Right.EDIT,
    "register.adding.certify": Right.EDIT,
    "register.adding.take_back_certificate": Right.EDIT,
    "register.attachments.attach": Right.EDIT,
    "register.attachments.detach": Right.EDIT,
    "register.bringing.bring_in": Right.KEEP,
    "register.completing.add_tool": Right.EDIT,
    "register.completing.complete": Right.EDIT,
    "register.completing.keep_measured": Right.EDIT,
    "register.editing.add": Right.EDIT,
    "register.editing.add_many_tools": Right.EDIT,
    "register.editing.change": Right.EDIT,
    "register.editing.remove": Right.EDIT,
    "register.editing.take_back": Right.EDIT,
    "register.filters.forget_filter": HERE,
    "register.filters.keep_filter": HERE,
    "register.gear.add_gear": Right.EDIT,
    "register.gear.add_scale_on_a_hook": Right.EDIT,
    "register.gear.add_weights": Right.EDIT,
    "register.intake.take_in": Right.KEEP,
    "register.many.change_many": Right.EDIT,
    "register.unlocking.unlock": Right.EDIT,
    "runs.adjusting.begin": HERE,
    "runs.adjusting.finish": Right.ADJUST,
    "runs.adjusting.give_up": HERE,
    "runs.adjusting.tell_where": Right.ADJUST,
    "runs.adjusting.turn": Right.ADJUST,
    "runs.amending.amend": HERE,
    "runs.continuing.continue_in_full": HERE,
    "runs.diary.add_step": HERE,
    "runs.noted.keep_noted": HERE,
    "runs.opening.give_up": HERE,
    "runs.opening.open_run": HERE,
    "runs.setting_up.choose_reference": HERE,
    "runs.setting_up.hang": HERE,
    "runs.setting_up.look_over": HERE,
    "runs.setting_up.look_over_all": HERE,
    "runs.setting_up.note_rest": HERE,
    "runs.setting_up.pull_with": HERE,
    "runs.setting_up.record_pointer": HERE,
    "runs.setting_up.record_room": HERE,
    "runs.setting_up.record_room_not_measured": HERE,
    "runs.setting_up.record_zero": HERE,
    "runs.setting_up.record_zero_after": HERE,
    "runs.setting_up.set_in_line": HERE,
    "runs.signing.conclude": Right.SIGN,
    "runs.signing.sign": Right.SIGN,
    "runs.taking.count_rest_of_exercise": HERE,
    "runs.taking.keep": HERE,
    "runs.taking.keep_trace": HERE,
    "runs.taking.observe": HERE,
    "runs.taking.record_exercise": HERE,
    "runs.taking.strike": HERE,
    "runs.taking.take": HERE,
    "using.cards.keep": Right.EDIT,
    "using.cards.remove": Right.EDIT,
    "using.correcting.allow": Right.ALLOW,
    "using.lending.lend": HERE,
    "using.lending.take_back": HERE,
    "using.reviewing.begin": HERE,
    "using.reviewing.begin_after": HERE,
    "using.reviewing.close": HERE,
    "using.reviewing.settle": Right.SETTLE,
    "using.trips.come_back": HERE,
    "using.trips.enter_certificate": Right.SIGN,
    "using.trips.send": HERE,
    "using.working.begin": HERE,
    "using.working.enter": HERE,
    "using.working.enter_measured": HERE,
    "using.working.give_up": HERE,
    "using.working.sign": Right.SIGN,
    "using.working.strike_last": HERE,
    "using.working.take": HERE,
}
"""By its module in ``shop`` and its name, the right that a command wants whatever it is given. One that may depart from a
rule, or touch what is another's, asks for more where it does: its docstring says so."""


def command(run: Callable[P, T]) -> Callable[P, T]:
    """Asks for the right of a command of ``COMMANDS`` before it does anything, whoever calls it. Its session comes first;
    its ``act`` may be None, where it takes that, while nobody is registered. Raises KeyError for a command without a row."""
    right = COMMANDS[f"{run.__module__.removeprefix('reckoner.shop.')}.{run.__name__}"]
    code = run.__code__
    place = code.co_varnames.index("act", 0, code.co_argcount)

    @wraps(run)
    def asked(*args: P.args, **kwargs: P.kwargs) -> T:
        given: Any = kwargs["act"] if "act" in kwargs else args[place] if len(args) > place else None
        session = cast("Session", args[0])
        if given is None:
            refuse_where_anybody_is(session)
        elif right is HERE:
            require_here(session, given)
        else:
            require(session, given, right)
        return run(*args, **kwargs)

    return asked


def refuse_where_anybody_is(session: Session) -> None:
    """Raises ShopRefused once somebody is registered: nobody does nothing any more."""
    if session.scalar(select(Person.id).limit(1)) is not None:
        raise ShopRefused(tr("Choose who is at the bench first, at the top right."))


def rights_of(person: Person) -> frozenset[Right]:
    """What a person may do, as the people's table has it."""
    return frozenset(right for right in Right if getattr(person, right))


def require(session: Session, act: Act, right: Right) -> None:
    """Raises ShopRefused when the person who acts has not the ``right``, or works here no more."""
    person = session.get(Person, act.person_id)
    if person is None or person.removed:
        raise ShopRefused(tr("Whoever does this is not in the register; choose a person at the top right."))
    refuse_without(person, right)


def require_here(session: Session, act: Act) -> None:
    """Raises ShopRefused when the person who acts is not in the register, or works here no more; whoever does may do this."""
    person = session.get(Person, act.person_id)
    if person is None or person.removed:
        raise ShopRefused(tr("Whoever does this is not in the register; choose a person at the top right."))
    if person.left_on is not None:
        raise ShopRefused(
            tr("{initials} works here no more; choose another person at the top right.", initials=person.initials)
        )


def require_own(session: Session, act: Act, person_id: int | None) -> None:
    """Raises ShopRefused unless the person who acts did what is to be taken back (``person_id``; None: nobody who is
    registered). Taking back is one's own; what others did is changed as anything is, under one's own initials."""
    if person_id in (None, act.person_id):
        return
    who = session.get(Person, person_id)
    raise ShopRefused(
        tr(
            "{initials} did that, and takes it back alone. Change it as you would change anything; it then stands under your "
            "initials.",
            initials=who.initials if who is not None else tr("somebody else"),
        )
    )


def refuse_without(person: Person, right: Right) -> None:
    """The same for a person at hand."""
    if person.left_on is not None:
        raise ShopRefused(
            tr("{initials} works here no more; choose another person at the top right.", initials=person.initials)
        )
    if not getattr(person, right.value):
        raise lacks(person.initials, right)


def lacks(initials: str, right: Right) -> ShopRefused:
    """The refusal of who has not a right."""
    return ShopRefused(
        tr(
            "{initials} may not {right_words}. Somebody who may has to do it, or grant it under Tools, People.",
            initials=initials,
            right_words=RIGHT_WORDS[right],
        )
    )
