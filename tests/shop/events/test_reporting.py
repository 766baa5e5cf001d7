"""What people report of a tool: what follows, what is refused, what the top line's words mean, and a report taken back."""

from datetime import date

import pytest
from sqlalchemy import select

from reckoner.shop.events import projection
from reckoner.shop.events.consequences import REPORTED, consequence, offered, why_not
from reckoner.shop.events.kinds import EVENTS
from reckoner.shop.events.recording import report
from reckoner.shop.events.standing import Loan, Standing, StandingEvent, standing_of
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.register import editing
from reckoner.shop.register.cards import card
from reckoner.shop.register.fields import fields_of
from reckoner.shop.runs import opening
from reckoner.shop.words.phrases import understood
from reckoner.store.reader import reader_of
from reckoner.store.schema import Person
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import later, outside, tool_id

HC = "HC-0417"
DAY = date(2026, 11, 1)


def standing(session, wanted):
    return card(reader_of(session), wanted).standing


@pytest.mark.parametrize("kind", [k for k in REPORTED if EVENTS[k].harms])
def test_every_harm_holds_the_tool_and_asks_for_a_check(demo, act, kind):
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        made = report(session, wanted, kind, "", act)
        now = standing(session, wanted)
        assert (now.held, now.check_event_id) == (EVENTS[kind].words.lower(), made.event_id)
        assert made.told == "HC-0417 will be held until a check has answered it."
        assert projection.worked_out(session, wanted) == now


@pytest.mark.parametrize(
    ("kind", "says"),
    [
        (EventKind.HELD, "will be held until somebody releases it"),
        (EventKind.KEPT, "no exercise, no test, no adjusting"),
        (EventKind.RETIRED, "will leave service"),
        (EventKind.NOTED, "nothing else changes"),
    ],
)
def test_a_report_taken_back_leaves_the_tool_as_it_stood_and_the_record_there(demo, act, kind, says):
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        before = standing(session, wanted)
        assert says in consequence(HC, before, kind)
        with pytest.raises(ShopRefused, match="Say why"):
            report(session, wanted, kind, " ", act)
        made = report(session, wanted, kind, "the handle is slack", act)
        after = standing(session, wanted)
        assert (after == before) is (kind is EventKind.NOTED)
        withdrawn = made.take_back(session, later(act, 1))
        assert standing(session, wanted) == before
        again = withdrawn.take_back(session, later(act, 2))
        assert standing(session, wanted) == after
        report(session, wanted, EventKind.FELL, "", later(act, 3))
        with pytest.raises(ShopRefused, match="happened to the tool since"):
            again.take_back(session, act)
        assert projection.rebuild(session) == 0


def test_a_mistake_takes_back_the_event_before_it_and_nothing_else():
    """Not a hold from before, not a second time, not what a run has answered."""
    kinds = [EventKind.HELD, EventKind.FELL, EventKind.MISTAKEN, EventKind.MISTAKEN]
    made = [StandingEvent(i, k, "slack" if i == 0 else "", DAY, i) for i, k in enumerate(kinds)]
    assert standing_of(made[:2]).check_event_id == 1
    assert standing_of(made[:3]) == standing_of(made[:1])
    assert standing_of(made) == standing_of(made[:1])


def test_what_makes_no_sense_is_not_offered_and_refused(demo, act):
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        now = standing(session, wanted)
        assert set(REPORTED) - set(offered(now)) == {
            EventKind.RELEASED, EventKind.KEPT_NO_MORE, EventKind.BACK_IN_SERVICE,
            EventKind.CORRECTED_NO_MORE,
        }  # fmt: skip
        with pytest.raises(ShopRefused, match="HC-0417: It is not held"):
            report(session, wanted, EventKind.RELEASED, "mended", act)
        opening.open_run(session, wanted, act)
        for kind in (EventKind.RETIRED, EventKind.KEPT):
            with pytest.raises(ShopRefused, match="on the bench"):
                report(session, wanted, kind, "claim", act)
    assert "lent to" in why_not(Standing(loan=Loan("Tower crew", DAY, None)), EventKind.RETIRED)


@pytest.mark.parametrize(
    ("right", "kind"),
    [("may_allow", EventKind.RELEASED), ("may_edit", EventKind.RETIRED)],
)
def test_releasing_and_retiring_want_their_right(demo, act, right, kind):
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        report(session, wanted, EventKind.HELD, "slack", act)
        second = session.scalars(select(Person.id).where(Person.id != act.person_id)).first()
        field = next(f for f in fields_of(RegisterKind.PERSON) if f.name == right)
        editing.change(session, RegisterKind.PERSON, second, field, False, act)
        with pytest.raises(ShopRefused, match="may not"):
            report(session, wanted, kind, "mended", Act(second, act.at))
        report(session, wanted, kind, "mended", act)


def test_a_run_given_up_can_hold_its_tool(demo, act):
    wanted = tool_id(demo, HC)
    with demo.session() as session:
        run = outside(session, wanted, act)
        opening.give_up(session, run.id, "handle cracked", act, hold=True)
        assert standing(session, wanted).held == "handle cracked"


@pytest.mark.parametrize(
    ("text", "kind", "note"),
    [
        ("0417 fell", EventKind.FELL, ""),
        ("hc-0417 dropped from the platform", EventKind.FELL, "from the platform"),
        ("HC0417 no click since Monday", EventKind.NO_SIGNAL, "since Monday"),
        ("0417 used to break loose", EventKind.USED_TO_LOOSEN, ""),
        ("0417 lock found loose: half a turn", EventKind.LOCK_LOOSE, "half a turn"),
        ("hold 0417 handle slack", EventKind.HELD, "handle slack"),
        ("keep 0417 claim 12", EventKind.KEPT, "claim 12"),
        ("Note 0417 new grip tape", EventKind.NOTED, "new grip tape"),
    ],
)
def test_words_that_act_are_understood_with_what_follows(demo, act, text, kind, note):
    with demo.session() as session:
        found = understood(reader_of(session), text, act.at.date())
        assert (found.number, found.kind, found.note, found.why_not) == (HC, kind, note, "")
        assert found.told.startswith(HC) or kind is EventKind.NOTED


@pytest.mark.parametrize("text", ["0417", "fell", "04 fell", "HC-9999 fell", "0417 feels fine", "hold", "click 200"])
def test_other_words_are_no_phrase(demo, act, text):
    with demo.session() as session:
        assert understood(reader_of(session), text, act.at.date()) is None


def test_a_phrase_that_cannot_be_done_says_why(demo, act):
    with demo.session() as session:
        reader = reader_of(session)
        assert understood(reader, "hold 0417", act.at.date()).why_not == "Type why as well, in a few words."
        assert understood(reader, "release 0417 mended", act.at.date()).why_not == "It is not held."
