"""One-sided evidence: it proves a tool outside, never inside, by a meter and by weights; and readings far off."""

import pytest

from reckoner.core.decision.states import State
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.weights import at_the_end, next_asked
from reckoner.shop.runs import signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.words.results import one_sided_words
from reckoner.store.terms import ObservationKind, Outcome, Source
from tests.shop.runs.test_weights import set_up
from tests.support.runs import closed, later, prepared, read, tool_id

NO_SIGNAL, CLICKED, SILENT = ObservationKind.NO_SIGNAL, ObservationKind.CLICKED, ObservationKind.SILENT


def silent(session, run, torque, act):
    shown = torque * run.reference.correction(run.current.target)
    return taking.observe(session, run.id, NewObservation(NO_SIGNAL, shown, Source.TYPED), act)


def test_two_pulls_without_a_signal_prove_a_point_outside_and_the_run_is_judged(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)  # 40, 120, 200 N·m, ±4 %
        run = silent(session, run, 41.6, act)  # 40/0.96 is 41.67: it may trip just above, inside
        assert run.current.pairs == ()
        assert run.current.missing == 5
        for torque in (41.8, 42.4):
            run = silent(session, run, torque, act)
        assert run.current.target == 120
        while run.current:
            run = read(session, run, run.current.target * 1.001, act)
        run = closed(session, run, act)
        found = judged(run).verdict
        assert (found.accepted, found.worst.target) == (False, 40)
        assert found.worst.decision.looked_at == pytest.approx(42.4 / 40 - 1, rel=0.06)
        assert one_sided_words(run, run.series[0]).startswith("At 40\u202fN·m it gave no signal up to 42.4")
        assert one_sided_words(run, run.series[1]) == ""
        signed = signing.sign(session, run.id, later(act, 2))
        assert signed.signature.outcome is Outcome.HELD
        assert [r.otherwise for r in recompute(session) if r.otherwise] == []
        assert load(session, run.id).series[0].one_sided


def test_only_what_no_pull_can_be_is_refused(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        run = taking.observe(session, run.id, NewObservation(ObservationKind.VALUE, 9.0, Source.TYPED), act)
        assert run.series[0].pairs[0].deviation == pytest.approx(40 / 9 - 1, rel=0.01)
        for torque in (-4.0, 0.0, 700.0):
            with pytest.raises(ShopRefused, match="cannot be a pull of this tool"):
                taking.observe(session, run.id, NewObservation(ObservationKind.VALUE, torque, Source.TYPED), act)
        beam = prepared(session, tool_id(demo, "HC-0215"), act)
        with pytest.raises(ShopRefused, match="gives no signal; type what it shows"):
            silent(session, beam, 50.0, act)


@pytest.mark.parametrize(("answer", "sense"), [(SILENT, -1), (CLICKED, 1)])
def test_weights_at_the_end_of_the_scale_prove_it_by_the_same_answer_twice(demo, act, answer, sense):
    """HC-0125 at 25 N·m with 23.9 hung clicks even at its highest setting, or at 5 N·m is silent even at its lowest."""
    with demo.session() as session:
        run = set_up(session, "HC-0125", demo, act)
        if answer is CLICKED:  # bracket the two lower points first
            while run.current.target < 25:
                asked = next_asked(run, run.current)
                kind = CLICKED if asked.torque >= asked.setting else SILENT
                run = taking.observe(session, run.id, asked.answered(kind), act)
        target = run.current.target
        assert at_the_end(run, run.current) is None  # there is something to try
        for proven in (1, 2):
            while (asked := next_asked(run, run.current)) is not None:
                run = taking.observe(session, run.id, asked.answered(answer), act)
            last, kind = at_the_end(run, run.current)
            assert kind is answer
            run = taking.observe(session, run.id, last.alone(answer, run.limit(target)), act)
            series = next(s for s in run.found if s.target == target)
            assert len(series.pairs) == proven
        assert run.current is None or run.current.target != target
        assert all(sense * p.deviation > 0.04 for p in series.pairs)
        if run.current is None:
            assert judged(run).verdict.accepted is False
            assert judged(run).verdict.state in (State.OUTSIDE, State.OUTSIDE_NEAR)
