"""The bench's state: deaf to nothing, whatever goes wrong; one taker for exercise, readings and adjusting."""

from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.core.trace.event import Fault, TraceEvent
from reckoner.meters.pull import Pull, Signalled
from reckoner.shop.runs import adjusting
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Observation, Trace
from reckoner.store.terms import ReadingOwner, Source
from reckoner.ui.work import APOLOGY
from tests.support.hands import ENTER, WAIT, click, focused, press, pull, settle, type_in
from tests.support.runs import later, outside, prepared, read, tool_id


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
    bench.meter.pulled.emit(pulled("b", 4000.0))
    settle(qtbot, window)
    qtbot.waitUntil(lambda: "check the number and its unit" in bench.panels.adjust.notice.text(), timeout=WAIT)
    assert bench.presenter.sounds.played.count("taken") == 1
    bench.meter.pulled.emit(pulled("c", 119.0))
    qtbot.waitUntil(lambda: bench.asking.asks, timeout=WAIT)
    settle(qtbot, window)
    assert "is 120\u202fN·m still set?" in bench.asking.words.text()
    assert bench.presenter.sounds.played[-1] == "refused"
    assert not bench.button.isEnabled()  # no turn is advised on it
    click(bench.asking.buttons[0])
    qtbot.waitUntil(lambda: not bench.asking.asks, timeout=WAIT)
    assert bench.run.adjusting.steps[1].observations[-1].struck == "120\u202fN·m was still set"


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
    lost = pulled("b", 39.4, faults=(Fault.NO_SIGNAL, Fault.SAMPLES_LOST))
    bench.meter.pulled.emit(replace(lost, readings=()))
    assert "Samples were lost on the way" in bench.panels.pulls.head.notice.text()
    assert len(bench.run.series[0].observations) == 1


def test_a_typed_value_stays_when_it_is_refused(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    bench.panels.pulls.typed.line.setText("4020")
    bench.panels.pulls.typed.line.returnPressed.emit()
    settle(qtbot, window)
    assert bench.panels.pulls.typed.text == "4020"
    assert "4020 N·m cannot be a pull of this tool" in bench.panels.pulls.typed.hint.text()
    assert bench.run.series[0].observations == ()


@pytest.mark.parametrize(
    ("answer", "struck", "whose"),
    [
        ("Type it again", "typed wrongly", None),
        ("Strike it: the hand or the setting", "the hand or the setting", None),
        ("Keep it", "", ReadingOwner.UNSAID),
        ("Keep it: the tool did that", "", ReadingOwner.TOOL),
    ],
)
def test_a_reading_far_off_is_kept_at_once_and_is_what_a_person_says_it_was(
    qtbot, at, demo, act, answer, struck, whose
):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    type_in(window, "9")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.asking.asks, timeout=WAIT)
    settle(qtbot, window)
    assert focused(window) is bench.asking
    assert (
        bench.asking.words.text()
        == "9.00 N·m is far from 40\u202fN·m. Is it set to 40\u202fN·m, and was that its pull?"
    )
    for _ in range(3):
        press(window, ENTER)  # the rhythm answers nothing
    assert bench.asking.asks
    assert (bench.button.text(), bench.button.isEnabled()) == ("Answer what is asked", False)
    click(next(b for b in bench.asking.buttons if b.text() == answer))
    qtbot.waitUntil(lambda: not bench.asking.asks, timeout=WAIT)
    settle(qtbot, window)
    (kept,) = bench.run.series[0].observations
    assert (kept.torque, kept.struck, kept.kept.whose if kept.kept else None) == (9.0, struck, whose)
    assert focused(window) is bench.panels.pulls.typed.line
    assert bench.panels.pulls.typed.text == ""


def test_what_is_asked_waits_for_its_answer_when_the_program_was_killed(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        for torque in (40.0, 40.1):
            run = read(session, run, torque, act)
        read(session, run, 31.0, act)
    window, bench = at(run)
    assert focused(window) is bench.asking
    assert bench.asking.words.text().startswith("At 40\u202fN·m one pull stands apart: 31.0")
    bench.meter.pulled.emit(pulled("a", 40.2, announced=False))  # a hand that did not look: its pull is kept
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 4, timeout=WAIT)
    assert bench.asking.asks
    click(bench.asking.buttons[1])
    qtbot.waitUntil(lambda: not bench.asking.asks, timeout=WAIT)
    assert [bool(o.struck) for o in bench.run.series[0].observations] == [False, False, True, False]


def test_any_reading_is_struck_by_the_keys_or_by_a_click_on_it(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        for torque in (40.0, 40.1, 40.2):
            run = read(session, run, torque, act)
    window, bench = at(run)
    panel = bench.panels.pulls
    assert bench.strike()
    for _ in range(5):
        press(window, Qt.Key.Key_Up)  # to the first, and no further
    press(window, Qt.Key.Key_Down)
    assert "the 2nd at 40" in panel.striking.which.text()
    type_in(window, "jerked")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.series[0].observations[1].struck == "jerked", timeout=WAIT)
    settle(qtbot, window)
    row, _series = next(panel.grid._laid_out())
    QTest.mouseClick(panel.grid, Qt.MouseButton.LeftButton, pos=panel.grid._cell(row, 0).center().toPoint())
    assert "the 1st at 40" in panel.striking.which.text()
    type_in(window, "misread")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.series[0].observations[0].struck == "misread", timeout=WAIT)
    assert [bool(o.struck) for o in bench.run.series[0].observations] == [True, True, False]


def test_a_tool_that_never_signals_is_proven_outside_by_two_pulls(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    panel = bench.panels.pulls
    for torque, count in (("41 N.m", 1), ("42 N.m", 2), ("42.3 N.m", 3)):
        click(panel.no_signal.never)
        panel.no_signal.line.setText(torque)
        panel.no_signal.line.returnPressed.emit()
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
