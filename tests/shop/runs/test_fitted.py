"""Two scales, exchangeable heads, tools without a scale and both ways: what is set, what is asked, and what the words are."""

from dataclasses import replace

import pytest

from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.requirements.tooltypes import Direction, Mechanism, ToolKind, ToolType
from reckoner.shop.facts.judged import head_factor, on_second_scale
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import opening, signing, taking
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.inspection import asked_of, inspection_lines
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.planning import check, propose
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind, RunKind
from reckoner.ui.bench.instructions import instruct
from tests.support.runs import TODAY, closed, later, prepared, ready, tool_id

HC = "HC-0417"


def with_model(session, act, **fields):
    tool = session.get_one(Tool, tool_id_of(session))
    edit(session, RegisterKind.MODEL, tool.model_id, fields, act)
    return tool.id


def tool_id_of(session):
    return session.connection().exec_driver_sql("SELECT id FROM tool WHERE number = 'HC-0417'").scalar_one()


def test_a_tool_with_two_scales_is_set_by_the_one_that_was_chosen_and_the_record_says_so(demo, act):
    with demo.session() as session:
        wanted = with_model(session, act, second_unit="lbf.ft")
        proposal = propose(session, wanted, TODAY)
        assert [lack.fact for lack in proposal.lacking] == ["second_resolution"]
        with pytest.raises(ShopRefused, match="graduation of its second scale"):
            on_second_scale(proposal.tool)
        foot = unit_named("lbf.ft", Kind.TORQUE).size
        with_model(session, act, second_resolution=1.0 * foot)
        assert propose(session, wanted, TODAY).lacking == ()
        proposed = propose(session, wanted, TODAY, second_scale=True).plan.points
        run = ready(session, wanted, act, RunKind.FULL, second_scale=True, points=proposed)
        assert [s.target / foot for s in run.found] == [pytest.approx(p) for p in (30, 89, 147)]
        assert run.tool.unit.name == "lbf.ft"
        assert "Set 30 lbf·ft" in instruct(run).replace("\u202f", " ")
        assert run.tool.kind.resolution == pytest.approx(foot)  # that scale's graduation stands in the budget
        while run.current is not None:
            aim = run.current.target * run.correction(run.current.target)
            run = taking.observe(session, run.id, taking.typed(aim), act)
        signed = signing.sign(session, closed(session, run, act).id, later(act, 1))
        paper = dict(certificate_of(session, signed).blocks)
        assert dict(paper["The tool"])["Scale"] == "set by its scale in lbf·ft, of two"
        with pytest.raises(ShopRefused, match="nearest graduation is 30"):
            check(replace(proposal.plan, points=(40.0,)), run.tool)


def test_another_head_counts_by_the_difference_of_lengths(demo, act):
    with demo.session() as session:
        wanted = with_model(session, act, head_length=0.0175)
        run = ready(session, wanted, act, RunKind.CHECK, head=0.0475)
        lever = run.tool.lever
        assert head_factor(run.tool) == pytest.approx((lever + 0.03) / lever)
        shown = 120.0 * head_factor(run.tool) * run.reference.correction(120.0)
        while run.current is not None:
            run = taking.observe(session, run.id, taking.typed(shown), act)
        assert judged(run).verdict.worst.budget.deviation == pytest.approx(
            0
        )  # charged to the head, and not to the tool
        lines = derivation(run.tool, run.reference, judged(run).verdict.points[0], judged(run).verdict)
        assert any("47.5 mm instead of 17.5 mm" in line.values.replace("\u202f", " ") for line in lines)
        short = replace(run.tool, head=0.0075)
        assert head_factor(short) == pytest.approx((lever - 0.01) / lever)
        assert (
            head_factor(replace(run.tool, head=run.tool.made_for_head))
            == head_factor(replace(run.tool, head=None))
            == 1
        )
        plan = replace(propose(session, tool_id(demo, "HC-0418"), TODAY).plan, head=2.0)
        with pytest.raises(ShopRefused, match="No head is as long"):
            opening.open_run(session, tool_id(demo, "HC-0418"), act, plan)


def test_what_does_not_apply_is_not_asked_and_what_does_is():
    assert "Adapter length entered in it" in inspection_lines(
        Mechanism.ELECTRONIC, screwdriver=False, enters_length=True
    )
    assert "Adapter length entered in it" not in inspection_lines(Mechanism.ELECTRONIC, screwdriver=False)


def test_the_words_fit_tools_without_a_scale_and_tools_that_turn_both_ways(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, HC), act)
        without = replace(run.facts.tool, kind=ToolKind(ToolType.SETTING, "C", 200, 40, 0.0))
        said = instruct(replace(run, facts=replace(run.facts, tool=without)))
        assert "It has no scale: bring it to 40" in said
        assert not said.startswith("Clockwise")
        first, *rest = run.all_series
        other = replace(rest[-1], id=999, direction=Direction.CCW)
        done = tuple(replace(s, wanted=0) for s in (first, *rest))
        both = replace(run, all_series=(*done, other))
        assert instruct(both).startswith("Turn it over: counter-clockwise. Set 200")
        begins = replace(both, all_series=(first, *done[1:], other))
        assert instruct(begins).startswith("Clockwise. Set 40")
        tool = tool_facts(session.get_one(Tool, run.tool.id))
        assert tool.second is None
        assert "Adapter length entered in it" in asked_of(replace(tool, corrects_adapter=True))
