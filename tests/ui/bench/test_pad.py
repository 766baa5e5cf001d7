"""Without a keyboard, and without a meter that is linked: figures are pressed on the screen, releases counted at once."""

from dataclasses import replace

from PyQt6.QtWidgets import QApplication, QPushButton

from reckoner.core.requirements.tooltypes import Direction
from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.runs import opening, setting_up
from reckoner.shop.runs.records import Step
from reckoner.store.terms import ZeroMoment
from reckoner.ui.widgets.numberpad import NumberPad
from tests.support.hands import WAIT, click, settle
from tests.support.runs import TODAY, looked_over, prepared, tool_id
from tests.ui.bench.test_weights import at_the_set_up, to_the_exercise


def pad_of(field):
    """The pad of a field, brought by the button beside it."""
    click(next(b for b in field.findChildren(QPushButton) if b.text() == "1 2 3"))
    return next(pad for pad in field.window().findChildren(NumberPad) if pad.isVisible())


def test_readings_are_typed_with_the_mouse_alone(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    typed = bench.panels.pulls.typed
    pad = pad_of(typed)
    assert QApplication.focusWidget() is typed.line
    for sign in ("3", "9", "7", "⌫", ".", "8"):
        click(pad.keys[sign])
    assert typed.text == "39.8"
    click(pad.keys["Enter"])
    qtbot.waitUntil(lambda: len(bench.run.series[0].counted) == 1, timeout=WAIT)
    settle(qtbot, window)
    for sign in ("4", "0", ".", "1", "Enter"):  # it stays for the next one
        click(pad.keys[sign])
    qtbot.waitUntil(lambda: len(bench.run.series[0].counted) == 2, timeout=WAIT)
    assert [one.torque for one in bench.run.series[0].counted] == [39.8, 40.1]
    frame = window.frame.rect()
    assert frame.contains(pad.geometry())
    click(next(b for b in typed.findChildren(QPushButton) if b.text() == "1 2 3"))
    assert not pad.isVisible()


def test_releases_made_one_after_the_other_are_counted_with_one_press(qtbot, open_window, demo_folder, demo):
    """With weights nothing counts them but the person."""
    window, bench, _sheet = at_the_set_up(qtbot, open_window(demo_folder), tool_id(demo, "HC-0125"), "Weights")
    to_the_exercise(qtbot, window, bench)
    settle(qtbot, window)
    rest = bench.panels.pulls.rest
    assert (bench.button.text(), rest.button.text()) == ("All 5 are done", "Count a release")
    (way,) = bench.run.exercise
    rest.show_run(replace(bench.run, exercise=(way, replace(way, direction=Direction.CCW))))
    assert rest.words == "All 5 clockwise are done"  # a press is for one direction, and the next says other words
    rest.show_run(bench.run)
    click(rest.button)  # one by one as ever
    qtbot.waitUntil(lambda: bench.button.text() == "All 4 are done", timeout=WAIT)
    click(bench.button)
    click(bench.button)  # twice is once
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    settle(qtbot, window)
    assert not rest.isVisible()
    assert [one.done for one in bench.run.exercise] == [5]
    assert bench.right.fault.text() == ""


def test_releases_that_a_meter_counts_are_not_counted_by_hand(qtbot, at, demo, act):
    with demo.session() as session:
        run = looked_over(session, opening.open_run(session, tool_id(demo, "HC-0417"), act), act)
        best = candidates(session, run.tool, run.rules, TODAY)[0].reference
        setting_up.choose_reference(session, run.id, best.id, "", act)
        setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.001, act)
    _window, bench = at(run)
    qtbot.waitUntil(lambda: bench.meter.streams, timeout=WAIT)
    assert bench.run.step is Step.EXERCISE
    qtbot.waitUntil(lambda: not bench.panels.pulls.rest.isVisible(), timeout=WAIT)
