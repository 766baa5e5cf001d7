"""The bench's state: deaf to nothing, whatever goes wrong; one taker for exercise, readings and adjusting."""

import numpy as np
import pytest

from reckoner.core.trace import Fault, TraceEvent
from reckoner.meters.pull import Pull, Signalled
from reckoner.shop.runs import adjusting
from reckoner.shop.runs.steps import Step
from reckoner.store.schema import Observation, Trace
from reckoner.store.terms import Source
from reckoner.ui.work import APOLOGY
from tests.support.hands import WAIT, click, pull, settle
from tests.support.runs import later, outside, prepared, tool_id


def pulled(number, torque, *, announced=True, faults=(), rest=0.0):
    event = TraceEvent(1.0, torque, torque * 1.1, 1.0, faults=faults)
    told = (torque,) if announced else ()
    return Pull(number, (torque,), told, torque * 1.1, (event,), np.linspace(0, torque, 50), 1000.0, None, rest)


def test_after_a_fault_of_our_own_the_bench_still_hears_its_meter(qtbot, at, demo, act, caplog):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    qtbot.waitUntil(lambda: bench.meter.linked and bench.meter.zero() is not None, timeout=WAIT)
    bench.presenter.do(lambda session, act: 1 / 0)
    qtbot.waitUntil(lambda: bench.right.fault.text() == APOLOGY, timeout=WAIT)
    assert bench.presenter.news.free
    caplog.clear()
    pull(qtbot, window, bench)
    assert len(bench.run.series[0].observations) == 1
    assert bench.right.fault.text() == ""


def test_what_the_meter_brings_while_a_change_is_committed_waits_and_keeps_its_order(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    for number, torque in (("a", 39.5), ("b", 39.6), ("c", 39.7)):
        bench.meter.signalled.emit(Signalled(number, torque, 0.01))
        bench.meter.pulled.emit(pulled(number, torque))
    assert not bench.presenter.news.free
    settle(qtbot, window)
    qtbot.waitUntil(lambda: len(bench.run.series[0].observations) == 3, timeout=WAIT)
    settle(qtbot, window)
    assert [(o.pull, o.torque) for o in bench.run.series[0].observations] == [("a", 39.5), ("b", 39.6), ("c", 39.7)]
    with demo.session() as session:
        for trace in session.query(Trace):
            kept = session.get_one(Observation, trace.observation_id)
            assert np.frombuffer(trace.samples, "<f4").max() == pytest.approx(
                kept.torque
            )  # each trace with its own reading
        assert session.query(Trace).count() == 3


def test_adjusting_takes_readings_as_every_step_does_with_traces_and_a_sound_after_the_commit(qtbot, at, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        adjusting.begin(session, run.id, run.series[0].id, later(act, 1))
        adjusting.turn(session, run.id, 0.25, later(act, 1))
    window, bench = at(run)
    assert bench.run.step is Step.ADJUST
    bench.meter.signalled.emit(Signalled("a", 39.0, 0.01))
    assert bench.taker.feedback.provisional == 39.0
    assert bench.presenter.sounds.played == []  # not before it is kept
    bench.meter.pulled.emit(pulled("a", 39.0, faults=(Fault.TOO_FAST,)))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: len(bench.run.adjusting.steps[1].observations) == 1, timeout=WAIT)
    settle(qtbot, window)
    (taken,) = bench.run.adjusting.steps[1].observations
    assert (taken.source, taken.faults) == (Source.TRACE, (Fault.TOO_FAST,))
    assert bench.presenter.sounds.played[0] == "taken"
    assert "too fast" in bench.panels.adjust.notice.text()
    assert bench.strike()
    assert bench.panels.adjust.striking.why.text == "too fast"
    bench.meter.pulled.emit(pulled("b", 400.0))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: "Check the value and its unit" in bench.panels.adjust.notice.text(), timeout=WAIT)
    assert bench.presenter.sounds.played.count("taken") == 1


def test_a_pull_that_is_told_only_when_it_is_over_tells_its_faults_after_it_was_kept(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    bench.meter.pulled.emit(pulled("a", 39.5, announced=False, faults=(Fault.JERK,)))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: len(bench.run.series[0].observations) == 1, timeout=WAIT)
    settle(qtbot, window)
    assert "A bad pull: jerk" in bench.panels.pulls.head.notice.text()
    assert bench.run.series[0].observations[0].faults == (Fault.JERK,)
    assert bench.run.series[0].zero_before == 0.0


def test_a_typed_value_stays_when_it_is_refused(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    bench.panels.pulls.typed.line.setText("4,02")
    bench.panels.pulls.typed.line.returnPressed.emit()
    settle(qtbot, window)
    assert bench.panels.pulls.typed.text == "4,02"
    assert "far off. Correct it" in bench.panels.pulls.typed.hint.text()
    assert bench.panels.pulls.unsure.question.text() == (
        "4.02 N·m is far from 40\u202fN·m. Is it set to 40\u202fN·m, and was that its pull?"
    )
    bench.panels.pulls.typed.line.setText("40,2")
    bench.panels.pulls.typed.line.returnPressed.emit()
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 1, timeout=WAIT)
    assert not bench.panels.pulls.unsure._asking.isVisible()


@pytest.mark.parametrize(("whose", "counts"), [("tool", 1), ("hand", 0)])
def test_a_reading_far_off_is_kept_as_what_a_person_says_it_was(qtbot, at, demo, act, whose, counts):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    panel = bench.panels.pulls
    panel.typed.line.setText("9")
    panel.typed.line.returnPressed.emit()
    settle(qtbot, window)
    assert bench.run.series[0].observations == ()
    click(panel.unsure.tool if whose == "tool" else panel.unsure.hand)
    qtbot.waitUntil(lambda: len(bench.run.series[0].observations) == 1, timeout=WAIT)
    settle(qtbot, window)
    assert len(bench.run.series[0].pairs) == counts
    assert bool(bench.run.series[0].observations[0].struck) is not bool(counts)
    assert panel.typed.text == ""


def test_a_tool_that_never_signals_is_proven_outside_by_two_pulls(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    panel = bench.panels.pulls
    for torque, count in (("41 N.m", 1), ("42 N.m", 2), ("42.3 N.m", 3)):
        click(panel.unsure.never)
        panel.unsure.up_to.line.setText(torque)
        panel.unsure.up_to.line.returnPressed.emit()
        qtbot.waitUntil(lambda c=count: len(bench.run.series[0].observations) == c, timeout=WAIT)
        settle(qtbot, window)
    first = bench.run.series[0]
    assert len(first.pairs) == 2  # 41 N·m lies below 40/0.96 and says nothing
    assert first.one_sided
    assert bench.run.current is not first


def test_leaving_a_run_and_resizing_touches_nothing_that_is_gone(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    bench.presenter.give_up("only tried")
    qtbot.waitUntil(lambda: bench.run is None, timeout=WAIT)
    for width in (1024, 1300):
        window.frame.resize(width, 800)
        qtbot.wait(20)
