"""A meter in line: either of two can be the reference; what coupling moves counts; two that disagree decide nothing."""

import math
from dataclasses import replace

import pytest

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures.choosing import references
from reckoner.shop.runs import document, opening, setting_up, signing, taking
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.setups.inline import InLineFacts, in_line, in_line_words
from reckoner.store.terms import ReferenceKind, ZeroMoment
from tests.support.runs import TODAY, later, looked_over, read_all, tool_id_in


@pytest.fixture
def meters(demo):
    """The demo's meters by number: PM-4 to 100 N·m, PM-5 to 200, PM-9 without a certificate."""
    with demo.session() as session:
        return {found.facts.number: found.facts for found in references(session, TODAY)}


def begun(session, act, number="HC-0422"):
    return looked_over(session, opening.open_run(session, tool_id_in(session, number), act), act)


def test_each_is_corrected_by_its_own_certificate_before_they_are_held_together(meters):
    line = in_line(meters["PM-4"], meters["PM-5"], between_them=True, recoupling=0.001, shown=(60.0, 60.0))
    own, other = meters["PM-4"].correction(60.0), meters["PM-5"].correction(60.0)
    assert line.apart == pytest.approx(other / own - 1)
    assert (line.other, line.ends) == ("PM-5", 200.0)
    assert line.coupling_width == pytest.approx(2 * 0.001 / math.sqrt(3))
    assert in_line(meters["PM-4"], None, between_them=False, recoupling=None, shown=None) == InLineFacts()
    with pytest.raises(InputRefused, match="must lie between 0 and 0"):
        in_line(meters["PM-4"], None, between_them=True, recoupling=0.06, shown=None)


def test_what_coupling_moves_widens_it_and_the_smaller_of_two_bears(demo, act, meters):
    with demo.session() as session:
        run = begun(session, act)
        run = setting_up.set_in_line(
            session,
            run.id,
            meters["PM-4"].id,
            meters["PM-5"].id,
            act,
            between=False,
            recoupling=0.002,
            shown=(60, 60.05),
        )
        assert run.reference.kind is ReferenceKind.IN_LINE
        assert run.reference.at(60.0).expanded_uncertainty == pytest.approx(
            math.hypot(meters["PM-4"].at(60.0).expanded_uncertainty, 0.004 / math.sqrt(3))
        )
        assert in_line_words(run.reference.line) == "under PM-5, which stands between"
        assert document.read(document.write(run.facts)) == run.facts
    over_a_small_one = replace(meters["PM-5"], line=InLineFacts(other="PM-4", ends=100.0))
    assert over_a_small_one.bears(100.0)
    assert not over_a_small_one.bears(101.0)  # PM-4 stands in the way


@pytest.mark.parametrize("reference", ["PM-4", "PM-9"])
def test_a_run_with_one_in_line_is_judged_by_its_certificate_and_says_how_it_stood(demo, act, meters, reference):
    with demo.session() as session:
        run = begun(session, act)
        run = setting_up.set_in_line(
            session,
            run.id,
            meters[reference].id,
            meters["PM-5"].id,
            act,
            recoupling=0.001,
            shown=(60, 60.1),
            reason="try",
        )
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.001, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        run = read_all(session, run, act, 0.99)
        proven = reference == "PM-4"
        assert (judged(run).verdict.state is State.COMPARED) is not proven
        run = signing.sign(session, run.id, later(act, 2))
        assert load(session, run.id).reference.line == run.reference.line
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []
        if proven:
            said = [row for block in certificate_of(session, run).blocks for row in block[1]]
            assert ("In line", "between the tool and PM-5") in said
            assert any(name == "One pull read on both" and "against PM-5" in words for name, words in said)
            steps = derivation(run.tool, run.reference, judged(run).verdict.points[0], judged(run).verdict)
            stands = next(step for step in steps if "between the tool and PM-5" in step.what)
            assert stands.values.startswith("√(0.600")  # its certificate's alone
            assert stands.result.startswith("0.611")  # √(0.6² + 0.115²)
            assert ("Set on anew", "±0.10\u202f%") in said


@pytest.mark.parametrize(
    ("tool", "reference", "other", "shown", "why"),
    [
        ("HC-0422", "PM-4", "PM-4", None, "in line with itself"),
        ("HC-0404", "PM-5", "PM-4", None, "through PM-4 as well, which ends at 100"),
        ("HC-0422", "PM-4", "PM-5", (60.0, 61.5), "differ by 2"),
    ],
)
def test_what_cannot_stand_so_is_refused_in_words(demo, act, meters, tool, reference, other, shown, why):
    with demo.session() as session:
        run = begun(session, act, tool)
        with pytest.raises(ShopRefused, match=why):
            setting_up.set_in_line(session, run.id, meters[reference].id, meters[other].id, act, shown=shown)


def test_two_may_differ_by_what_both_may_be_off(demo, act, meters):
    with demo.session() as session:
        run = begun(session, act)
        run = setting_up.set_in_line(session, run.id, meters["PM-4"].id, meters["PM-5"].id, act, shown=(60.0, 60.45))
        own = meters["PM-4"].at(60.0).expanded_uncertainty
        other = meters["PM-5"].at(60.4).expanded_uncertainty
        assert own < abs(run.reference.line.apart) < math.hypot(own, other)


def test_two_of_which_one_is_not_proven_are_told_and_not_refused(demo, act, meters):
    with demo.session() as session:
        run = begun(session, act)
        run = setting_up.set_in_line(session, run.id, meters["PM-4"].id, meters["PM-9"].id, act, shown=(60.0, 63.0))
        assert run.reference.line.apart == pytest.approx(-0.048, abs=0.002)


def test_what_coupling_moves_lets_two_differ_more_and_may_make_the_reference_too_unsure(demo, act, meters):
    with demo.session() as session:
        run = begun(session, act)

        def stand(recoupling, reason=""):
            return setting_up.set_in_line(
                session, run.id, meters["PM-4"].id, meters["PM-5"].id, act, recoupling=recoupling, shown=(60.0, 61.0),
                reason=reason,
            )  # fmt: skip

        with pytest.raises(ShopRefused, match="differ by 1"):
            stand(0.002)
        with pytest.raises(ShopRefused, match="does not suit: its uncertainty"):
            stand(0.02)  # they may differ so far, but nothing can be decided with it
        assert stand(0.02, "only to compare").set_up.override == "only to compare"
