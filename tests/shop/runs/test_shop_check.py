"""A meter without a certificate: numbers to compare, and nothing decided."""

import pytest
from sqlalchemy import delete, select

from reckoner.core.decision.states import State
from reckoner.formats.resultfile import packed
from reckoner.shop.events.standing import Condition
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.resultfiles import recomputed, result_file
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.people.present import PersonFacts
from reckoner.shop.people.rights import rights_of
from reckoner.shop.planning.nextup import next_up
from reckoner.shop.procedure import Distrust
from reckoner.shop.register.cards import card
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import adjusting, outcomes, signing
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.outcomes import conclude
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.words.results import formal, run_sentence
from reckoner.store.migrate import lowered
from reckoner.store.reader import reader_of
from reckoner.store.schema import Certificate, CertificatePointRow, Person, ToolEvent
from reckoner.store.terms import Outcome
from tests.support.runs import TODAY, later, outside, read, read_all, tool_id

HC = "HC-0417"


@pytest.fixture
def unproven(demo):
    """The demo as if none of its meters had ever been certified."""
    with demo.engine.begin() as connection, lowered(connection):
        for table in (CertificatePointRow, Certificate):
            connection.exec_driver_sql("UPDATE set_up SET certificate_id = NULL")
            connection.execute(delete(table))
    return demo


def test_a_run_against_an_unproven_meter_compares_and_decides_nothing(unproven, act):
    with unproven.session() as session:
        wanted = tool_id(unproven, HC)
        before = card(reader_of(session), wanted).standing
        run = outside(session, wanted, act)  # it would be held by a meter that decides
        found = judged(run)
        assert found.distrust is Distrust.UNPROVEN
        assert (found.verdict.state, found.verdict.accepted) == (State.COMPARED, None)
        assert (
            formal(found.verdict, run.rules.title, run.tool.unit)
            == "A shop check: numbers to compare, without a verdict and without a due date"
        )
        assert run_sentence(run.tool, found.verdict).endswith("compared in the shop")
        advised = outcomes.choices(run, act.at.date())
        assert [c.outcome for c in advised] == [
            Outcome.HELD,
            Outcome.COMPARED,
        ]  # nobody is handed a tool read past its limit
        assert "% off, and its limit is ±" in advised[0].why
        assert conclude(run) is None  # a word would be a verdict
        signed = signing.sign(session, run.id, act, Outcome.COMPARED)
        paper = certificate_of(session, signed)
        assert (paper.title, "shop check" in paper.notes[0].lower()) == ("Shop check", True)
        assert "onform" not in paper.statement + paper.formal
        rows = [row for phase in paper.phases for row in phase.rows]
        assert {(r.uncertainty, r.fence.near, r.fence.whisker) for r in rows} == {("—", 0.0, 0.0)}
        assert paper.budgets == ()
        assert next_up(reader_of(session), signed.reference, wanted, TODAY).tools == ()
        assert signed.signature.due is None
        assert card(reader_of(session), wanted).standing == before  # no due date, no hold, no other result
        assert sheet(reader_of(session), wanted).runs[-1].state is State.COMPARED
        assert [r.otherwise for r in recompute(session)][-1] == ()


def test_a_tool_read_inside_against_an_unproven_meter_is_kept_as_a_shop_check(unproven, act):
    with unproven.session() as session:
        run = outside(session, tool_id(unproven, HC), act, 0.99)
        assert [c.outcome for c in outcomes.choices(run, act.at.date())] == [
            Outcome.COMPARED,
            Outcome.HELD,
            Outcome.RELEASED,
        ]


def test_a_shop_check_may_be_adjusted_by_and_its_owner_releases_it_with_a_reason(unproven, act):
    with unproven.session() as session:
        wanted = tool_id(unproven, HC)
        run = outside(session, wanted, act)
        run = signing.sign(session, run.id, act)  # held, as advised
        assert card(reader_of(session), wanted).standing.held
        run = outside(session, wanted, act)
        me = session.get_one(Person, act.person_id)
        facts = PersonFacts(me.id, me.initials, me.name, rights_of(me))
        assert adjusting.why_not(run, facts) == ""
        run = adjusting.begin(session, run.id, run.series[1].id, act)
        run = adjusting.turn(session, run.id, 0.25, act)
        for _ in range(3):
            run = read(session, run, run.adjusting.target, act)
        run = adjusting.finish(session, run.id, True, act)
        run = read_all(session, run, act, 0.995)
        assert judged(run).verdict.state is State.COMPARED
        with pytest.raises(ShopRefused, match="Say in the remark why its owner releases it"):
            signing.sign(session, run.id, later(act, 2), Outcome.RELEASED)
        me.may_allow = False
        session.flush()
        with pytest.raises(ShopRefused, match="allow what departs"):
            signing.sign(session, run.id, later(act, 2), Outcome.RELEASED, "for the rough work")
        me.may_allow = True
        signed = signing.sign(session, run.id, later(act, 2), Outcome.RELEASED, "for the rough work")
        now = card(reader_of(session), wanted).standing
        assert not now.held
        assert signed.signature.due is None
        file = result_file(session, signed)
        assert recomputed(file)[1] == ()
        silent = file.record.signature.model_copy(update={"note": ""})  # whoever takes the reason out takes the release
        said = recomputed(packed(file.record.model_copy(update={"signature": silent}), file.issued_by))[1]
        assert any("released" in sentence for sentence in said)
        paper = certificate_of(session, signed)
        assert "Released by its owner's decision, without a verdict: for the rough work." in paper.remarks
        event = session.scalars(
            select(ToolEvent).where(ToolEvent.tool_id == wanted).order_by(ToolEvent.id.desc())
        ).first()
        assert event.note == "by its owner's decision, without a verdict: for the rough work"


def test_a_tool_that_was_only_compared_stays_new_and_wears_its_own_mark(unproven, act):
    from reckoner.shop.register import adding

    with unproven.session() as session:
        model = card(reader_of(session), tool_id(unproven, HC)).tool.model_id
        ids, _ = adding.add_tools(session, adding.ToolsDraft(("HC-0999",), model), act)
        run = outside(session, ids[0], act)
        signing.sign(session, run.id, act, Outcome.COMPARED)
        standing = card(reader_of(session), ids[0]).standing
        assert standing.state is State.COMPARED
        assert standing.conditions(act.at.date())[0] is Condition.NEW
