"""What the eye finds on the bench: last time before the first reading, the pulls before behind the trace, typed readings."""

from dataclasses import replace

import numpy as np
import pytest

from reckoner.core.requirements.tooltypes import Mechanism, MeterMode, ToolType
from reckoner.core.trace.event import Fault
from reckoner.meters.pull import Signalled
from reckoner.shop.events.recording import record_event
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import adjusting, opening
from reckoner.shop.runs.inspection import inspection_lines
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import Step
from reckoner.store.reader import reader_of
from reckoner.store.schema import Tool
from reckoner.store.terms import EventKind, RunKind
from reckoner.ui.bench.fences import LastTime
from reckoner.ui.bench.instructions import instruct
from reckoner.ui.bench.series.readings import TYPED_WORDS
from tests.support.hands import ENTER, WAIT, press, settle, type_in
from tests.support.runs import TODAY, later, outside, prepared, read_all, ready, tool_id
from tests.ui.bench.test_presenter import pulled


def taken(bench):
    return sum(len(s.observations) for s in bench.run.all_series)


def bring(qtbot, window, bench, number, torque, faults=()):
    """A signal and its pull, as the meter brings them."""
    before = taken(bench)
    bench.meter.samples.emit(np.linspace(0, torque, 500), 1000.0)
    bench.meter.signalled.emit(Signalled(number, torque, 0.1))
    bench.meter.pulled.emit(pulled(number, torque, faults=faults))
    qtbot.waitUntil(lambda: taken(bench) == before + 1, timeout=WAIT)
    settle(qtbot, window)


def test_last_time_stands_where_the_fences_come_until_the_first_reading(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    last, fences = bench.right.last, bench.right.fences
    qtbot.waitUntil(last.isVisible, timeout=WAIT)
    assert not fences.isVisible()
    assert last.who.text() == "Full run, 6 Dec 2025, M. T., with PM-5"
    assert last.sentence.text().startswith("Clicks 1.7")
    assert last.since.text() == "Nothing was reported since."
    assert last.fence.isVisible()
    bring(qtbot, window, bench, "a", 39.5)
    assert not last.isVisible()
    assert fences.isVisible()


def test_a_check_after_an_event_tells_what_it_is_held_against(qtbot, at, demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        record_event(session, wanted, EventKind.FELL, "from the gantry", act)
        plan = propose(session, wanted, TODAY, RunKind.EVENT).plan
        run = opening.open_run(session, wanted, later(act, 1), plan)
    _window, bench = at(run)
    qtbot.waitUntil(bench.right.last.isVisible, timeout=WAIT)
    assert "fell on 24 Nov 2026 (from the gantry)" in bench.right.last.since.text()


def test_a_short_check_has_the_fences_at_once(qtbot, at, demo, act):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, RunKind.CHECK)
    _window, bench = at(run)
    qtbot.wait(100)
    assert bench.right.fences.isVisible()
    assert not bench.right.last.isVisible()


def test_a_tool_that_was_never_tested_has_the_fences(theme, demo):
    with demo.session() as session:
        found = sheet(reader_of(session), tool_id(demo, "HC-0417"))
    last = LastTime(theme)
    assert last.show_sheet(found, TODAY)
    assert not last.show_sheet(replace(found, runs=(), happenings=()), TODAY)


@pytest.mark.parametrize("step", [Step.AS_FOUND, Step.ADJUST])
def test_the_pulls_before_stay_faint_behind_the_trace_and_faults_are_told_there(qtbot, at, demo, act, step):
    with demo.session() as session:
        if step is Step.ADJUST:
            run = outside(session, tool_id(demo, "HC-0417"), act)
            adjusting.begin(session, run.id, run.series[0].id, later(act, 1))
            run = adjusting.turn(session, run.id, 0.25, later(act, 1))
        else:
            run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    trace = (bench.panels.adjust if step is Step.ADJUST else bench.panels.pulls).trace
    qtbot.waitUntil(trace.isVisible, timeout=WAIT)
    bare = trace.grab().toImage()
    for i in range(4):
        bring(qtbot, window, bench, f"{i}", 39.5 + i / 10, (Fault.TOO_FAST,) if i == 3 else ())
    assert [round(p.torques[p.signal], 1) for p in trace.earlier] == [39.6, 39.7, 39.8]  # the last three
    assert trace.accessibleDescription() == "The last pull: too fast"
    trace.take(np.zeros(8000), 1000.0)  # rest long enough that only what stands behind is left
    assert trace.grab().toImage() != bare
    trace.aim(120.0, run.tool.unit)
    assert trace.earlier == ()


def test_typed_readings_are_told_apart_from_those_of_the_meter(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    grid = bench.panels.pulls.grid
    bring(qtbot, window, bench, "a", 39.5)
    assert TYPED_WORDS not in grid.accessibleName()
    low = grid.sizeHint().height()
    type_in(window, "39.8")
    press(window, ENTER)
    qtbot.waitUntil(lambda: taken(bench) == 2, timeout=WAIT)
    settle(qtbot, window)
    assert TYPED_WORDS in grid.accessibleName()
    assert grid.sizeHint().height() > low


def test_the_reading_keeps_its_size_when_a_pull_is_told(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    window.frame.resize(1024, 700)
    settle(qtbot, window)
    bring(qtbot, window, bench, "a", 39.5)
    figure = bench.panels.pulls.head._reading
    sentence = bench.panels.pulls.head._sentence
    qtbot.waitUntil(lambda: figure.fontMetrics().capHeight() <= figure.height(), timeout=WAIT)
    qtbot.waitUntil(lambda: figure.geometry().bottom() <= sentence.geometry().top(), timeout=WAIT)


def test_the_words_fit_a_screwdriver(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0131"), act)
    assert run.tool.kind.is_screwdriver
    said = instruct(run)
    assert "Turn smoothly, in line with the drive, until it" in said
    assert not {"mark", "pull", "ratchet"} & set(said.lower().replace(",", "").split())
    assert next(line.line for line in run.inspection) == "Bit holder"
    assert "Drive and ratchet" in inspection_lines(Mechanism.CLICK, screwdriver=False)


def test_an_electronic_tool_that_is_set_to_its_torque_goes_by_its_peak(demo):
    with demo.session() as session:
        facts = tool_facts(session.get_one(Tool, tool_id(demo, "HC-0417")))
    shows = replace(
        facts, mechanism=Mechanism.ELECTRONIC, kind=replace(facts.kind, type=ToolType.INDICATING, class_="C")
    )
    signals = replace(facts, mechanism=Mechanism.ELECTRONIC)
    assert (shows.implies.mode, shows.implies.keeps_value, signals.implies.keeps_value) == (MeterMode.PEAK, True, False)
    assert (signals.implies.mode, signals.implies.until) == (MeterMode.PEAK, "it signals")


@pytest.mark.parametrize(("height", "told"), [(700, False), (800, True)])
def test_in_a_low_window_the_next_turn_has_its_room(qtbot, at, demo, act, height, told):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        adjusting.begin(session, run.id, run.series[0].id, later(act, 1))
        run = adjusting.turn(session, run.id, 0.25, later(act, 1))
    window, bench = at(run)
    window.frame.resize(1024 if height == 700 else 1280, height)
    settle(qtbot, window)
    panel = bench.panels.adjust
    bring(qtbot, window, bench, "a", 42.0)
    advice = panel._advice
    assert (panel._choices.isVisible(), panel._where.isVisible()) == (told, told)
    qtbot.waitUntil(lambda: advice.height() >= advice.heightForWidth(advice.width()), timeout=WAIT)  # none of it is cut
    qtbot.waitUntil(lambda: panel.screw.height() > 60, timeout=WAIT)


def test_in_a_low_window_what_was_signed_is_read_whole(qtbot, at, demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    window.frame.resize(1024, 700)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed and "next" in bench.button.text(), timeout=WAIT)
    settle(qtbot, window)
    panel = bench.panels.deciding
    for words in (panel.sentence, panel.due):
        qtbot.waitUntil(lambda w=words: w.height() >= w.heightForWidth(w.width()), timeout=WAIT)
    for link in (panel.to_sheet, panel.certificate.button, panel.amend):
        qtbot.waitUntil(lambda one=link: one.width() >= one.sizeHint().width(), timeout=WAIT)
