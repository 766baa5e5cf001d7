"""The Bench as a technician uses it: both directions, adjusting, holding, checks, troubles, sounds, the far-away view."""

from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.core.trace.event import Fault
from reckoner.meters.standin import StandIn, StandInPlan
from reckoner.shop.runs import adjusting, opening, setting_up
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Observation, Reference, Tool, ToolEvent, Trace
from reckoner.store.terms import RunKind
from reckoner.ui.places import PlaceId
from tests.support.hands import (
    ENTER,
    WAIT,
    click,
    focused,
    go,
    look,
    opened,
    press,
    pull,
    read_phase,
    settle,
    taken,
    to_first_pull,
    type_in,
)
from tests.support.runs import looked_over, prepared, read, tool_id


def test_as_found_adjusted_and_as_left_with_the_keyboard(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0404", demo)
    to_first_pull(qtbot, window, bench)
    while bench.run.step is Step.EXERCISE:
        pull(qtbot, window, bench)
    read_phase(qtbot, window, bench)
    assert judged(bench.run).verdict.accepted is False
    assert bench.button.text() == "Hold, sign as R. K."
    assert "restrict" not in [c.outcome.value for c in bench.panels.deciding.choices]
    click(bench.panels.deciding.adjust)
    qtbot.waitUntil(lambda: bench.run.step is Step.ADJUST, timeout=WAIT)
    assert "clockwise" in bench.panels.adjust.screw.accessibleName()
    turns = 0
    while bench.button.isEnabled() and bench.button.text().startswith("I turned it"):
        turns += 1
        press(window, ENTER)
        qtbot.waitUntil(lambda made=turns + 1: len(bench.run.adjusting.steps) == made, timeout=WAIT)
        for _ in range(2):
            pull(qtbot, window, bench)
        assert turns < 5
    assert adjusting.advice(bench.run)[0].rate_per_turn == pytest.approx(
        7.95, rel=0.2
    )  # the wrench's own, not the register's
    click(bench.panels.adjust.locked, bench.panels.adjust.locked.rect().center() / 8)
    qtbot.waitUntil(lambda: bench.button.text() == "Take as left" and bench.button.isEnabled(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_LEFT, timeout=WAIT)
    read_phase(qtbot, window, bench)
    assert judged(bench.run).verdict.accepted is True
    assert "As found: Clicks" in bench.panels.deciding.beside.text()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert bench.run.signature.due is not None
    assert "series" in bench.presenter.sounds.played
    with demo.session() as session:
        events = [e.kind for e in session.query(ToolEvent).filter_by(tool_id=bench.run.tool.id).order_by(ToolEvent.id)]
        assert events[-2:] == ["adjusted", "released"]
        traced = session.query(Trace).join(Observation).count()
        assert traced >= 30
    assert all(s.zero_before is not None for s in bench.run.found)


def test_both_directions_are_exercised_and_read_each_its_own_way(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0318", demo)
    bench.panels.start.form.points.line.setText("80, 340")
    assert "204" in bench.panels.start.form.warnings_label.text()
    press(window, ENTER)
    settle(qtbot, window)
    assert "Give the reason" in bench.panels.start.form.reason.hint.text()
    bench.panels.start.form.reason.line.setText("only the ends are used")
    bench.panels.start.setFocus()
    to_first_pull(qtbot, window, bench)
    assert bench.run.plan.note == "only the ends are used"
    while bench.run.step is Step.EXERCISE:
        pull(qtbot, window, bench)
    assert [(e.direction, e.done) for e in bench.run.exercise] == [("cw", 5), ("ccw", 5)]
    while bench.run.series[2].missing == 5:
        pull(qtbot, window, bench)
    assert [s.direction for s in bench.run.series] == ["cw", "cw", "ccw", "ccw"]
    bench.meter.send("direction cw")  # the person turns it the wrong way round
    QTest.keyPress(focused(window), Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: bench.taker.feedback.provisional is not None, timeout=WAIT)
    QTest.keyRelease(focused(window), Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: "pulled clockwise" in bench.panels.pulls.head.notice.text(), timeout=WAIT)
    assert len(bench.run.series[2].observations) == 1


def test_a_dial_tool_is_brought_to_the_mark_and_held(qtbot, open_window, demo_folder, demo):
    with demo.session() as session:
        number = next(t.number for t in session.query(Tool) if t.model.mechanism == "dial")
    window = open_window(demo_folder)
    bench = opened(qtbot, window, number, demo)
    to_first_pull(qtbot, window, bench)
    assert bench.run.zeros.pointer_before == 0
    assert "full scale" in bench.panels.pulls.head.instruction.text()
    seen = 0
    while seen < 3:
        before = taken(bench.run)
        look(window)
        QTest.keyPress(focused(window), Qt.Key.Key_Space)
        qtbot.waitUntil(
            lambda: float(np.ptp(bench.meter.recent)) < 2 and abs(bench.meter.recent[-1]) > 50, timeout=WAIT
        )
        qtbot.wait(60)
        QTest.keyRelease(focused(window), Qt.Key.Key_Space)
        qtbot.waitUntil(lambda before=before: taken(bench.run) > before, timeout=WAIT)
        qtbot.waitUntil(lambda: bench.meter.zero() is not None, timeout=WAIT)
        settle(qtbot, window)
        seen += 1
    assert "hold it there" in bench.panels.pulls.head.instruction.text()
    reading = bench.run.series[0].observations[0]
    assert reading.torque == pytest.approx(bench.run.series[0].target, rel=0.05)


def test_a_check_after_a_lock_came_loose_is_proposed_and_concluded(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0430", demo)
    assert bench.panels.start.kinds.one == "event"
    assert "setting creeps down" in bench.panels.start.why.text()
    to_first_pull(qtbot, window, bench)
    assert bench.run.kind is RunKind.EVENT
    assert bench.run.step is Step.AS_IT_CAME  # what the joints got, before exercise destroys it
    while bench.run.step in (Step.AS_IT_CAME, Step.EXERCISE):
        pull(qtbot, window, bench)
    read_phase(qtbot, window, bench)
    assert "Reads" in bench.panels.deciding.beside.text()
    assert "As it came: Clicks" in bench.panels.deciding.beside.text()
    assert "after 3 releases" in bench.panels.deciding.beside.text()
    assert bench.button.text() in ("Hold, sign as R. K.", "Full run, sign as R. K.")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    with demo.session() as session:
        newest = session.query(ToolEvent).filter_by(tool_id=bench.run.tool.id).order_by(ToolEvent.id.desc()).first()
        assert newest.kind == "held"


@pytest.fixture
def reading(qtbot, open_window, demo_folder, demo, act):
    """A bench in the middle of a series, linked to a stand-in made for it."""
    made = []

    def make(plan):
        stand_in = StandIn(plan)
        made.append(stand_in)
        with demo.session() as session:
            meter = session.query(Reference).filter_by(number="PM-5").one()
            meter.link, meter.serial = stand_in.url, meter.serial if plan.serial else ""
            run = prepared(session, tool_id(demo, "HC-0417"), act)
        window = open_window(demo_folder)
        go(window, "bench", tool=run.tool.id)
        bench = window.place(PlaceId("bench"))
        qtbot.waitUntil(lambda: bench.run is not None and bench.meter.identity is not None, timeout=WAIT)
        settle(qtbot, window)
        return window, bench, stand_in

    yield make
    for stand_in in made:
        stand_in.close()


def test_the_wrong_meter_is_told_by_its_serial_and_nothing_of_it_is_taken(qtbot, reading):
    window, bench, _ = reading(StandInPlan(serial="ANOTHER", speed=20))
    assert "This is another meter: serial ANOTHER" in bench.left.meter_words.text()
    bench.meter.send("pull")
    qtbot.wait(400)
    assert taken(bench.run) == 5  # the exercise, nothing more
    type_in(window, "39,9")
    press(window, ENTER)
    settle(qtbot, window)
    assert bench.run.series[0].observations[0].source == "typed"


def test_a_unit_changed_in_mid_series_is_said_and_values_stay_right(qtbot, reading):
    window, bench, _ = reading(StandInPlan(serial="", speed=20))
    pull(qtbot, window, bench)
    bench.meter.send("unit lbf.ft")
    qtbot.waitUntil(lambda: "now sends lbf·ft instead of N·m" in bench.left.meter_words.text(), timeout=WAIT)
    pull(qtbot, window, bench)
    first, second = bench.run.series[0].observations
    assert second.torque == pytest.approx(first.torque, rel=0.06)


def test_a_meter_in_another_mode_is_set_back_to_sending_its_torque(qtbot, reading):
    _, bench, _ = reading(StandInPlan(serial="", speed=20))
    modes = []
    bench.meter.changed.connect(lambda: modes.append(bench.meter.identity.mode if bench.meter.identity else ""))
    bench.meter.send("mode peak")
    bench.meter.send("hello")
    qtbot.waitUntil(lambda: modes[-2:] == ["peak", "track"], timeout=WAIT)


def test_without_a_link_the_zero_is_asked_for_between_series_and_the_room_when_it_took_long(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        session.query(Reference).filter_by(number="PM-5").one().link = ""
        run = prepared(session, tool_id(demo, "HC-0417"), replace(act, at=act.at - timedelta(hours=1)))
    window = open_window(demo_folder)
    go(window, "bench", tool=run.tool.id)
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    for target in (40, 120, 200):
        for i in range(5):
            type_in(window, str(target - 0.1 * i))
            press(window, ENTER)
            settle(qtbot, window)
        if target < 200:
            qtbot.waitUntil(lambda: bench.button.text() == "The meter is back at zero", timeout=WAIT)
            press(window, ENTER)
            settle(qtbot, window)
    assert [s.zero_after for s in bench.run.series] == [0, 0, None]
    type_in(window, "0.01")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.button.text() == "Record the room again", timeout=WAIT)
    bench.panels.pulls.room.line.setText("22.9")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    assert "The room drifted by 1.5" in bench.panels.deciding.beside.text()


def test_a_fast_pull_is_offered_for_striking_and_over_travel_is_said_to_the_hand(qtbot, reading):
    from reckoner.meters.wrench import Hand

    window, bench, _ = reading(StandInPlan(serial="", speed=10, hand=Hand(quick=0.25, careful=0.2, reaction=0.4)))
    pull(qtbot, window, bench)
    qtbot.waitUntil(lambda: "A bad pull: too fast" in bench.panels.pulls.head.notice.text(), timeout=WAIT)
    assert "past the signal" in bench.panels.pulls.head.hand.text()
    press(window, Qt.Key.Key_Backspace)
    assert bench.panels.pulls.striking.why.text == "too fast"
    press(window, ENTER)
    settle(qtbot, window)
    assert bench.run.series[0].observations[0].struck == "too fast"
    assert bench.run.series[0].observations[0].faults == (Fault.TOO_FAST,)


def test_first_releases_that_stand_apart_are_said_and_struck_as_exercise(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        for torque in (41.4, 41.2, 39.9, 39.95):
            read(session, run, torque, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=run.tool.id)
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    type_in(window, "39,9")
    press(window, ENTER)
    settle(qtbot, window)
    assert "first two are 3.5" in bench.asking.words.text().replace("\u202f", " ")  # asked: they would spoil the mean
    assert not bench.panels.pulls.trend.isVisible()
    click(next(b for b in bench.asking.buttons if "first release after rest" in b.text()))
    settle(qtbot, window)
    assert [bool(r.struck) for r in bench.run.series[0].observations] == [True, True, False, False, False]


def test_several_runs_are_open_and_each_goes_on_where_it_stopped(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        first = prepared(session, tool_id(demo, "HC-0417"), act)
        read(session, first, 39.9, act)
        second = opening.open_run(session, tool_id(demo, "HC-0422"), act)
    window = open_window(demo_folder)
    bench = window.place(PlaceId("bench"))
    for run, step in ((first, Step.AS_FOUND), (second, Step.LOOK_OVER), (first, Step.AS_FOUND)):
        go(window, "bench", tool=run.tool.id)
        qtbot.waitUntil(lambda run=run: bench.run is not None and bench.run.id == run.id, timeout=WAIT)
        settle(qtbot, window)
        assert bench.run.step is step
        assert bench.panel is (bench.panels.pulls if step is Step.AS_FOUND else bench.panels.look_over)


def test_a_scanned_number_that_nobody_has_is_added_and_goes_to_the_bench(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    press(window, Qt.Key.Key_J)
    type_in(window, "HC-0999")
    press(window, ENTER)
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bool(bench.panels.new_tool.models), timeout=WAIT)
    assert "HC-0999 is not in the register" in bench.panels.new_tool.title.text()
    type_in(window, "SN 5")
    d200 = next(i for i, m in enumerate(bench.panels.new_tool.models) if m.name == "Dunmorrow D-200")
    click(bench.panels.new_tool.group.button(d200))
    click(bench.button)
    qtbot.waitUntil(lambda: "HC-0999 comes to the bench" in bench.panels.start.title.text(), timeout=WAIT)
    with demo.session() as session:
        assert session.query(Tool).filter_by(number="HC-0999").one().serial == "SN 5"


def test_a_number_that_nobody_has_is_left_by_escape_and_the_run_comes_back(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    window.top_line.setFocus()
    type_in(window, "HC-0999")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bool(bench.panels.new_tool.models), timeout=WAIT)
    press(window, Qt.Key.Key_Escape)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.id == run.id, timeout=WAIT)


def test_the_room_is_typed_by_tab_alone_and_digits_begin_it(qtbot, at, demo, act):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0417"), act), act)
        meter = session.query(Reference).filter_by(number="PM-5").one()
        run = setting_up.choose_reference(session, run.id, meter.id, "", act)
    window, bench = at(run)
    panel = bench.panels.set_up
    for field in (panel.room.temperature, panel.room.humidity):
        field.clear()
    panel.setFocus()
    for key in "21":
        QTest.keyClicks(focused(window), key)
    press(window, Qt.Key.Key_Tab)
    for key in "45":
        QTest.keyClicks(focused(window), key)
    assert (panel.room.temperature.text, panel.room.humidity.text) == ("21", "45")  # no stepper lies between them
    assert bench.run.step is Step.SET_UP


def test_the_mute_is_remembered_and_the_far_away_view_says_what_the_bench_says(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        read(session, run, 39.5, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=run.tool.id)
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    press(window, Qt.Key.Key_M, Qt.KeyboardModifier.ControlModifier)
    settle(qtbot, window)
    assert bench.presenter.sounds.muted
    type_in(window, "39,6")
    press(window, ENTER)
    settle(qtbot, window)
    assert bench.presenter.sounds.played == []
    press(window, Qt.Key.Key_F11)
    qtbot.waitUntil(bench.far.isVisible, timeout=WAIT)
    says, figure, sentence, left = bench.far.words()
    assert "Set 40" in says
    assert figure == "39.60"
    assert sentence.startswith("Clicks 1.1")  # the meter reads 0.12 % high there
    assert "reading 3 of 5" in left
    assert not bench.far.grab().isNull()
    QTest.keyClick(bench.far, Qt.Key.Key_Escape)
    assert not bench.far.isVisible()
    window.frame.close()
    again = open_window(demo_folder)
    assert again.place(PlaceId.BENCH).presenter.sounds.muted


@pytest.mark.parametrize(("by_hand", "looked_over"), [(False, 1), (True, 0)])
def test_a_press_waits_for_what_the_bench_commits_by_itself(
    qtbot, open_window, demo_folder, demo, act, by_hand, looked_over
):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        run_id = opening.open_run(session, wanted, act).id
    window = open_window(demo_folder)
    go(window, "bench", tool=wanted)
    bench = window.current
    qtbot.waitUntil(lambda: bench.run is not None and bench.action() is not None, timeout=WAIT)
    settle(qtbot, window)
    bench.presenter.do(lambda session, _act: load(session, run_id), by_hand=by_hand)
    bench.primary()
    settle(qtbot, window)
    assert sum(line.fine is True for line in bench.run.inspection) == looked_over
