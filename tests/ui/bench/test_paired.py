"""A tool whose display keeps its value: each pull is two numbers, the tool's own and the meter's."""

import os
import pty
import statistics
import tty
from dataclasses import replace
from types import SimpleNamespace

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.requirements.tooltypes import MeterMode, ToolKind, ToolType
from reckoner.core.uncertainty.budget import Observations, budget
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.runs import amending, signing, taking
from reckoner.shop.runs.derivation import derivation
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.store.terms import ObservationKind, Outcome, ReferenceKind, Source
from reckoner.ui.bench.meter.intake import SHOWN_EARLY
from reckoner.ui.bench.meter.toollink import link_name
from reckoner.ui.bench.series.readings import _slots
from tests.support.hands import ENTER, WAIT, click, focused, look, press, settle, taken, type_in
from tests.support.runs import closed, later, prepared, tool_id


@pytest.fixture
def run(demo, act):
    with demo.session() as session:
        number = session.connection().exec_driver_sql(
            "SELECT t.number FROM tool t JOIN tool_model m ON m.id = t.model_id WHERE m.name = 'E-200' ORDER BY t.number"
        )
        return prepared(session, tool_id(demo, number.scalars().first()), act)


def pairs(session, run, act, tool, meter):
    run = taking.observe(session, run.id, taking.typed(meter), act)
    return taking.observe(session, run.id, taking.shown(tool), act)


def test_the_budget_of_pairs_charges_the_tool_with_its_own_scatter_alone():
    kind, reference = ToolKind(ToolType.INDICATING, "C", 200, 40, 0.1), ReferenceAtPoint(0.005)
    tool, meter = (118.0, 121.5, 120.4, 119.1), (117.3, 120.6, 119.9, 118.2)
    found = budget(Observations(tool, meter), kind, reference)
    wanted = [x / r - 1 for x, r in zip(tool, meter, strict=True)]
    mean = sum(wanted) / 4
    assert found.deviations == pytest.approx(wanted)
    spread = (sum((a - mean) ** 2 for a in wanted) / 3) ** 0.5
    assert found.component("repeatability").value == pytest.approx(spread / 2)
    # a tool that is right is right however unevenly it is pulled; the same readings held against one target are not
    uneven = (110.0, 131.0, 118.0, 124.0)
    assert budget(Observations(uneven, uneven), kind, reference).standard_deviation == 0
    assert budget(Observations((120.0,) * 4, uneven), kind, reference).standard_deviation > 8
    # one pull as the other side varies alone: as it always was
    fixed = budget(Observations((120.0,) * 4, meter), kind, reference)
    assert fixed.standard_deviation == pytest.approx(statistics.stdev(meter))


@pytest.mark.parametrize("shown", [0.4, 600.0])
def test_a_display_may_show_anything_above_nothing_up_to_three_full_scales(demo, act, run, shown):
    with demo.session() as session:
        run = pairs(session, run, act, shown, 40.4)
        assert run.series[0].pairs[0].tool == shown
        run = taking.observe(session, run.id, taking.typed(40.4), act)
        for wrong in (0.0, 600.1):
            with pytest.raises(ShopRefused, match="cannot be what this tool showed"):
                taking.observe(session, run.id, taking.shown(wrong), act)


def test_a_pull_waits_for_what_the_tool_showed_and_each_can_be_struck_alone(demo, act, run):
    assert (run.meter_mode, run.paired) == (MeterMode.PEAK, True)
    with demo.session() as session:
        with pytest.raises(ShopRefused, match="Pull first"):
            taking.observe(session, run.id, taking.shown(40.0), act)
        run = taking.observe(session, run.id, taking.typed(40.4), act)
        assert (run.awaiting.torque, run.series[0].pairs) == (40.4, ())
        with pytest.raises(ShopRefused, match="What did the tool show at the last pull"):
            taking.observe(session, run.id, taking.typed(40.5), act)
        run = taking.observe(session, run.id, taking.shown(41.0), act)
        correction = run.reference.correction(run.series[0].target)
        assert [(p.tool, p.reference) for p in run.series[0].pairs] == [(41.0, pytest.approx(40.4 / correction))]
        pulled, displayed = run.series[0].observations
        run = taking.strike(session, run.id, (displayed.id,), "misread", act)
        assert run.awaiting.id == pulled.id  # the pull stays, and waits again
        run = taking.observe(session, run.id, taking.shown(40.6), act)
        assert run.series[0].pairs[0].tool == 40.6
        run = taking.strike(session, run.id, (pulled.id,), "jerked", act)
        assert (run.series[0].pairs, run.awaiting, run.series[0].counted) == ((), None, ())  # both halves went
        assert run.series[0].pair_of(run.series[0].observations[0]).tool == 40.6
        for reading, display in ((40.4, 40.6), (40.5, 40.7)):
            run = taking.observe(session, run.id, taking.typed(reading), act)
            run = taking.observe(session, run.id, taking.shown(display), act)
        newest = run.series[0].counted[-2]
        run = taking.strike(session, run.id, (newest.id,), "jerked", act)
        assert [p.tool for p in run.series[0].pairs] == [40.6]  # what was shown of another pull stays
        assert run.series[0].counted[-1].tool_value == 40.6


def test_a_signed_run_of_pairs_says_both_numbers_and_is_recomputed(demo, act, run):
    with demo.session() as session:
        while run.current is not None:
            aim = run.current.target
            off = 1 + 0.01 * len(run.current.pairs)
            run = pairs(session, run, act, aim * off * 1.02, aim * off * run.reference.correction(aim))
        assert judged(run).verdict.points[0].budget.deviation == pytest.approx(0.02)
        lines = {
            line.what: line
            for line in derivation(run.tool, run.reference, judged(run).verdict.points[0], judged(run).verdict)
        }
        assert "40.8, 41.208" in lines["What the tool showed"].values
        assert "X̄_r / X_r" in lines["Standard deviation"].formula
        run = closed(session, run, act)
        signed = signing.sign(session, run.id, later(act, 1), outcome=Outcome.RELEASED)
        row = certificate_of(session, signed).phases[0].rows[0]
        assert "(the tool showed 40.80, 41.21" in row.readings
        assert [r.otherwise for r in recompute(session)][-1] == ()


def test_the_simulated_tool_tells_what_it_shows_of_each_pull(qtbot, at, run):
    window, bench = at(run)
    panel = bench.panels.pulls
    assert panel.shown.isVisible()
    look(window)
    QTest.keyPress(focused(window), Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: len(bench.meter.recent) and bench.meter.recent.min() > 35, timeout=WAIT)
    QTest.keyRelease(focused(window), Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 1, timeout=WAIT)
    _pulled, displayed = bench.run.series[0].observations
    assert (displayed.kind, displayed.source) == (ObservationKind.SHOWN, Source.TOOL)
    assert abs(bench.run.series[0].pairs[0].deviation) < 0.03
    assert "which was" in panel.head._sentence.text()
    assert panel.grid.accessibleName().startswith("Readings: 40")


def test_by_hand_the_focus_goes_from_the_meter_to_the_tool_and_back(qtbot, at, run):
    window, bench = at(run)
    bench.meter.hang_up()
    panel = bench.panels.pulls
    panel.arrive()
    type_in(window, "40.3")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.awaiting is not None, timeout=WAIT)
    settle(qtbot, window)
    assert focused(window) is panel.shown.line
    assert bench.button.text() == "Take what it showed"
    assert "what the tool's display showed" in panel.head.instruction.text()
    type_in(window, "4.06")
    press(window, ENTER)
    qtbot.waitUntil(lambda: "Did the tool show 4.06" in bench.asking.words.text(), timeout=WAIT)
    settle(qtbot, window)
    click(bench.asking.buttons[0])
    qtbot.waitUntil(lambda: bench.run.awaiting is not None, timeout=WAIT)
    settle(qtbot, window)
    assert focused(window) is panel.shown.line
    assert [o.struck for o in bench.run.series[0].observations] == ["", "typed wrongly"]
    type_in(window, "40.6")
    press(window, ENTER)
    press(window, ENTER)  # twice: the display belongs to one pull
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 1, timeout=WAIT)
    settle(qtbot, window)
    assert focused(window) is panel.typed.line


def test_a_pull_whose_display_was_never_typed_waits_when_it_is_opened_again(qtbot, at, demo, act, run):
    with demo.session() as session:
        taking.observe(session, run.id, taking.typed(40.3), act)  # and then the program was killed
    window, bench = at(run)
    assert bench.run.awaiting.torque == 40.3
    assert focused(window) is bench.panels.pulls.shown.line
    assert bench.button.text() == "Take what it showed"


def test_a_tool_with_a_link_of_its_own_brings_what_it_shows(qtbot, at, run, open_window, demo_folder):
    master, slave = pty.openpty()
    tty.setraw(master)
    window, bench = at(run)
    window.around.station.set_link(link_name(run.tool.number), f"plain:{os.ttyname(slave)}")
    bench.presenter.refresh()
    said = []
    bench.presenter.tool.said.connect(lambda words, tone: said.append(words))
    qtbot.waitUntil(lambda: any("The tool sends what it shows" in words for words in said), timeout=WAIT)
    bench.meter.hang_up()
    os.write(master, b"40.9 N.m\n0\n")  # before its pull is typed: it waits for it
    qtbot.waitUntil(lambda: bench.presenter.taker._early is not None, timeout=WAIT)
    panel = bench.panels.pulls
    panel.typed.setFocus()
    type_in(window, "40.3")
    press(window, ENTER)
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 1, timeout=WAIT)
    assert bench.run.series[0].pairs[0].tool == pytest.approx(40.9)
    assert taken(bench.run) == 3
    assert bench.run.step is Step.AS_FOUND
    window.frame.close()
    os.close(master)


def test_a_tools_link_that_drops_in_mid_pull_is_said_and_its_number_is_typed(qtbot, at, run, open_window, demo_folder):
    master, slave = pty.openpty()
    tty.setraw(master)
    window, bench = at(run)
    window.around.station.set_link(link_name(run.tool.number), f"plain:{os.ttyname(slave)}")
    said = []
    bench.presenter.tool.said.connect(lambda words, tone: said.append(words))
    bench.presenter.refresh()
    qtbot.waitUntil(lambda: any("The tool sends what it shows" in words for words in said), timeout=WAIT)
    bench.meter.hang_up()
    os.write(master, b"40.9 N.")  # it breaks off within its number
    os.close(slave)
    os.close(master)
    qtbot.waitUntil(lambda: said[-1].startswith("The tool: ") and "broke off" in said[-1], timeout=WAIT)
    bench.panels.pulls.typed.setFocus()
    type_in(window, "40.3")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.awaiting is not None, timeout=WAIT)
    assert bench.run.series[0].pairs == ()  # nothing was made up
    type_in(window, "40.8")
    press(window, ENTER)
    qtbot.waitUntil(lambda: len(bench.run.series[0].pairs) == 1, timeout=WAIT)
    assert bench.run.series[0].pairs[0].tool == pytest.approx(40.8)


def test_a_tool_that_is_held_at_its_mark_or_hangs_with_weights_has_one_number_a_pull(demo, act, run):
    assert not replace(run, procedure=PROCEDURES[ReferenceKind.WEIGHTS]).paired
    held = replace(run, set_up=replace(run.set_up, mode=MeterMode.HOLD))
    assert (held.paired, held.awaiting) == (False, None)


def test_what_the_tool_sent_long_before_or_for_a_pull_without_a_reading_is_not_taken(qtbot, at, run):
    window, bench = at(run)
    bench.meter.hang_up()
    taker, now = bench.taker, 100.0
    taker._clock = lambda: now
    taker.shown(40.9)
    now += SHOWN_EARLY + 1
    bench.panels.pulls.typed.setFocus()
    type_in(window, "40.3")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.awaiting is not None, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.series[0].pairs == ()
    assert _slots(bench.run.series[0]) == bench.run.series[0].wanted - 1  # its own cell is not empty
    taker.typed_shown(40.6, lambda: None, lambda words: None)
    qtbot.waitUntil(lambda: bench.run.awaiting is None, timeout=WAIT)
    taker.shown(41.2)
    taker.pulled(SimpleNamespace(readings=(), highest=1.0))  # a touch
    assert taker._early is None


def test_only_a_tool_whose_pulls_are_read_twice_is_linked_to(qtbot, at, demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    window.around.station.set_link(link_name("HC-0417"), "plain:/dev/none")
    bench.presenter.tool.dial(run)
    assert bench.presenter.tool._watch is None


def test_what_a_display_showed_goes_with_its_pull_into_the_copy(demo, act, run):
    with demo.session() as session:
        while run.current is not None:
            aim = run.current.target * (1 + 0.001 * len(run.current.pairs))
            run = taking.observe(session, run.id, taking.typed(aim), act)
            run = taking.observe(session, run.id, taking.shown(aim * 1.01), act)
        run = signing.sign(session, closed(session, run, act).id, act)
        copy = amending.amend(session, run.id, "a wrong room", act)
        assert [[(p.tool, p.reference) for p in s.pairs] for s in copy.found] == [
            [(p.tool, p.reference) for p in s.pairs] for s in run.found
        ]
        assert all(s.pairs for s in copy.found)
