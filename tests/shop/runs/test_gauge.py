"""A run with a hanging scale: what it shows is a torque; without a known weight on it first it decides nothing."""

import math
from dataclasses import replace

import pytest

from reckoner.core.decision.states import State
from reckoner.core.quantities.ownunits import METRIC
from reckoner.core.quantities.units import N_M
from reckoner.core.reference.gauge import KilogramBasis
from reckoner.core.requirements.tooltypes import Approach, Direction, Mechanism, ToolKind, ToolType
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Distrust
from reckoner.shop.procedures.papers import PAPERS
from reckoner.shop.runs import document, opening, setting_up, signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.shop.setups.gauging import Gauge, PullFacts, SquareCheck, check_pull, gauges
from reckoner.store.reader import reader_of
from tests.support.runs import later, looked_over, tool_id

GAUGE = Gauge("HS-1", 490.0, 0.008, 0.5, True, KilogramBasis.MASS_HERE)
PULL = PullFacts(GAUGE, 0.42, 0.42, gravity=9.801936, squared=SquareCheck.SQUARE, check=(9.967, 9.98))


@pytest.mark.parametrize(
    ("text", "force"),
    [
        ("33 kg", 33 * 9.801936),
        ("33", 33 * 9.801936),
        ("323.5 N", 323.5),
        ("33 kgf", 33 * 9.80665),
        ("72 lb", 72 * 0.45359237 * 9.801936),
    ],
)
def test_what_it_shows_is_read_as_force_or_as_mass(text, force):
    assert PULL.read(text, METRIC)[0] == pytest.approx(force * 0.42, rel=1e-9)


def test_off_the_mark_a_pin_changes_the_answer_and_square_counts():
    away = replace(PULL, pivot=0.03, hook=0.305)
    assert away.torque(100.0) == pytest.approx(100 * (0.305 - 0.03) * 0.42 / 0.39)
    assert away.force_for(away.torque(100.0)) == pytest.approx(100.0)
    worth = [
        replace(PULL, squared=s).reference_at(100.0).expanded_uncertainty for s in (SquareCheck.SQUARE, SquareCheck.EYE)
    ]
    assert worth[0] == pytest.approx(0.0084, abs=2e-4)  # 0.8 % of the gauge, 1 mm of 420
    assert worth[1] == pytest.approx(0.0095, abs=2e-4)  # 5° off square: up to 0.38 %


def test_a_pull_that_is_not_square_makes_less_and_its_degree_counts():
    askew = replace(PULL, squared=SquareCheck.MEASURED, angle=math.radians(75))
    assert askew.torque(100.0) == pytest.approx(100 * 0.42 * math.sin(math.radians(75)))
    square = replace(PULL, squared=SquareCheck.SQUARE)
    by_angle = 2 * math.radians(1.0) / math.sqrt(3) / math.tan(math.radians(75))
    assert askew.reference_at(40.0).expanded_uncertainty == pytest.approx(
        math.hypot(square.reference_at(40.0).expanded_uncertainty, by_angle), rel=1e-3
    )
    tool = ToolFacts(
        1, "T", "", "", "", ToolKind(ToolType.SETTING, "A", 60.0, 12.0, 0.5), Mechanism.CLICK, N_M, "", (Direction.CW,),
        Approach.FROM_BELOW, "", "", None, lever=0.42,
    )  # fmt: skip
    with pytest.raises(ShopRefused, match="Pull nearer to square"):
        check_pull(replace(askew, angle=math.radians(40)), tool, (60.0,))
    check_pull(askew, tool, (60.0,))


def begun(session, act, pull):
    run = looked_over(session, opening.open_run(session, tool_id_of(session), act), act)
    grip = run.tool.lever
    run = setting_up.pull_with(session, run.id, replace(pull, hook=grip, grip=grip, pivot=run.tool.pivot), act)
    run = setting_up.record_room(session, run.id, 21.5, 0.46, "", act)
    while run.step is Step.EXERCISE:
        run = taking.record_exercise(session, run.id, None, act)
    return run


def tool_id_of(session):
    from tests.support.runs import tool_id_in

    return tool_id_in(session, "HC-0302")


@pytest.mark.parametrize(("check", "state"), [((9.967, 9.98), State.INSIDE_NEAR), (None, State.COMPARED)])
def test_a_run_with_it_decides_only_after_a_known_weight(demo, act, check, state):
    with demo.session() as session:
        better = replace(PULL, gauge=replace(GAUGE, uncertainty=0.004), check=check)
        run = begun(session, act, better)
        pull = run.reference.set_up
        while run.current is not None:
            shown = pull.force_for(run.current.target * 0.99) / 9.801936
            torque, _words = pull.read(f"{shown} kg", METRIC)
            run = taking.observe(session, run.id, taking.typed(torque), act)
        found = judged(run)
        assert (found.verdict.state, found.distrust) == (state, None if check else Distrust.UNPROVEN)
        assert found.verdict.points[0].budget.deviation == pytest.approx(1 / 0.99 - 1, abs=1e-6)
        assert document.read(document.write(run.facts)) == run.facts
        rows = dict(PAPERS[run.facts.kind].rows(run, run.reference))
        assert (rows["Number"], "Certificate" in rows) == (pull.gauge.number, False)
        signing.sign(session, run.id, later(act, 2))
        assert load(session, run.id).reference.set_up == pull
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ({"hook": 0.02}, "beyond the pin"),
        ({"hook": 0.6}, "cannot pull beyond the grip mark"),
        ({"gauge": replace(GAUGE, reaches=100.0)}, "HS-1 ends at 10.2"),
        ({"check": (10.0, 10.4)}, "4.0 % off at that weight"),
        ({"check": (1.0, 1.0)}, "hang at least 3.5"),
        ({"check": (10.0, 0.0)}, "and type what it shows"),
        ({"check": (900.0, 900.0)}, "does not bear 900"),
    ],
)
def test_what_cannot_be_pulled_so_is_refused_in_words(demo, act, change, why):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0302"), act), act)
        pull = replace(PULL, hook=0.32, grip=0.32, pivot=run.tool.pivot)
        with pytest.raises(ShopRefused, match=why.replace(" %", "\u202f%")):
            setting_up.pull_with(session, run.id, replace(pull, **change), act)


def test_the_registers_gauges_say_what_they_read(demo):
    with demo.session() as session:
        found = gauges(reader_of(session))
    assert [(g.number, g.reads_kg, g.shows, g.uncertainty) for g in found] == [
        ("HS-1", True, KilogramBasis.MASS_HERE, 0.008)
    ]
