"""The Bench's quieter corners: links, second person, amendments, characterisation, plans, drawings, resuming after a kill."""

import os
import pty
import signal
import subprocess
import sys
import textwrap
import tty
from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from PyQt6.QtCore import QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QPushButton, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Mechanism, MeterMode
from reckoner.core.stream import Signal
from reckoner.core.units import N_M, unit_named
from reckoner.formats import rulesets
from reckoner.meters.standin import StandIn, StandInPlan
from reckoner.meters.wrench import Truth
from reckoner.shop import adjusting, signing
from reckoner.shop import bench as bench_shop
from reckoner.shop.acts import ShopRefused
from reckoner.shop.planning import propose
from reckoner.shop.run import RunKind, Step
from reckoner.shop.runload import earlier_series
from reckoner.store.schema import Characterisation, Reference, Run, Signature
from reckoner.ui.bench.screw import ScrewHead, TurnsLine, TurnsPlot, turn_words
from reckoner.ui.bench.start import read_points
from reckoner.ui.layout import Scrolling
from reckoner.ui.meterwatch import Aim, MeterWatch
from reckoner.ui.sounds import FOLDER, Sounds
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import Flow
from tests.conftest import WAIT, press, settle, tool_id, type_in
from tests.shop.test_adjusting import outside
from tests.shop.test_run import prepared, read_all
from tests.ui.test_bench_run import opened, pull
from tests.ui.test_job import ENTER, click


@pytest.fixture
def at(qtbot, open_window, demo_folder):
    """The bench with a run in front."""

    def go(run):
        window = open_window(demo_folder)
        window.go_bench(run.tool.id)
        bench = window.place("bench")
        qtbot.waitUntil(lambda: bench.run is not None and bench.run.id == run.id, timeout=WAIT)
        settle(qtbot, window)
        return window, bench

    return go


def test_a_second_person_signs_where_the_rule_set_asks(qtbot, at, demo, act, monkeypatch):
    text = rulesets.shipped_text("iso-6789-2017") + "\n[signing]\nsecond_person = true\n"
    monkeypatch.setattr("reckoner.shop.bench.rule_set_text", lambda name, tool: text)
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    assert not bench.button.isEnabled()
    qtbot.waitUntil(lambda: bool(bench.deciding.second._chips), timeout=WAIT)
    beside = bench.deciding.second._chips
    assert "R. K." not in [chip.text() for chip in beside.values()]
    click(next(chip for chip in beside.values() if chip.text() == "M. T."))
    bench.deciding._remark.line.setText("witnessed")
    bench.deciding.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert "R. K. and M. T." in bench.deciding._due.text()
    with demo.session() as session:
        assert session.query(Signature).order_by(Signature.id.desc()).first().note == "witnessed"


def test_a_signed_run_is_amended_in_the_window_and_the_old_one_stays(qtbot, at, demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    click(bench.deciding._amend)
    bench.deciding._amend_why.line.setText("the 40 N·m value was misread")
    QTest.keyClick(bench.deciding._amend_why.line, ENTER)
    qtbot.waitUntil(lambda: bench.run.amends == run.id, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.step is Step.DECIDE
    assert "amends the run signed" in bench.deciding._beside.text()
    press(window, Qt.Key.Key_Backspace)
    type_in(window, "misread")
    press(window, ENTER)
    settle(qtbot, window)
    assert bench.run.step is Step.AS_FOUND
    type_in(window, "198.5")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.current is None, timeout=WAIT)
    with demo.session() as session:
        assert session.get_one(Run, run.id).signature is not None


def test_a_run_of_the_history_is_opened_from_the_sheet(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    window.go_tool(tool_id(demo, "HC-0422"))
    place = window.current
    qtbot.waitUntil(lambda: place.sheet._number.text() == "HC-0422", timeout=WAIT)
    settle(qtbot, window)
    rows = [b for b in place.sheet.findChildren(QPushButton) if b.text() == "Full run" and not b.isHidden()]
    assert len(rows) == 4
    click(rows[0])
    bench = window.place("bench")
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.signed, timeout=WAIT)
    settle(qtbot, window)
    assert "Signed by" in bench.deciding._due.text()
    assert bench.deciding._amend.isVisible()
    assert bench.meter.identity is None  # a signed run dials no meter


def test_exercise_past_what_the_meter_bears_is_done_elsewhere_and_never_counted_on_it(qtbot, at, demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        plan = propose(session, wanted, act.at.date(), RunKind.CHARACTERISE).plan
        run = bench_shop.open_run(session, wanted, act, plan)
        for line in run.inspection:
            run = bench_shop.look_over(session, run.id, line.line, True, "", act)
        weak = session.query(Reference).filter_by(number="PM-4").one()
        with pytest.raises(ShopRefused, match=r"ends at 100.*exercise goes to 200"):
            bench_shop.choose_reference(session, run.id, weak.id, "", act)
        run = bench_shop.choose_reference(session, run.id, weak.id, "the other is away", act)
        run = bench_shop.record_room(session, run.id, 21.4, 0.46, "", act)
        run = bench_shop.record_zero(session, run.id, "before", 0.0, act)
    window, bench = at(run)
    assert "On a stub: PM-4 cannot bear it" in bench.pulls._instruction.text()
    qtbot.waitUntil(lambda: bench.meter.linked, timeout=WAIT)
    QTest.keyPress(window, Qt.Key.Key_Space)
    assert not bench.meter.pulling
    QTest.keyRelease(window, Qt.Key.Key_Space)
    bench.pulls.signalled(Signal(99.0, 1.0, 0.5), 0.01, None)
    assert "Nothing was counted" in bench.pulls._notice.text()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.exercise[0].done == 1, timeout=WAIT)


@pytest.mark.parametrize("kind", [RunKind.FULL, RunKind.CHARACTERISE])
def test_nothing_on_the_bench_is_wider_than_its_room_however_many_series_there_are(qtbot, at, demo, act, kind):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0318")
        plan = propose(session, wanted, act.at.date(), kind).plan
        run = bench_shop.open_run(session, wanted, act, plan)
        for line in run.inspection:
            run = bench_shop.look_over(session, run.id, line.line, True, "", act)
        run = bench_shop.record_room(session, run.id, 21.4, 0.46, "", act)
        meter = session.query(Reference).filter_by(number="PM-6").one()
        run = bench_shop.choose_reference(session, run.id, meter.id, "", act)
        run = bench_shop.record_zero(session, run.id, "before", 0.0, act)
        while run.exercising:
            run = bench_shop.record_exercise(session, run.id, None, act)
        run = read_all(session, run, act, 0.99)
    window, bench = at(run)
    for size in ((1280, 800), (1024, 700)):
        window.resize(*size)
        qtbot.wait(50)  # the columns are shared out anew
        for area in (a for a in bench.findChildren(Scrolling) if a.isVisible()):
            content, layout = area.widget(), area.widget().layout()
            assert content.width() == area.viewport().width()
            assert content.height() >= layout.totalHeightForWidth(content.width())


def test_a_characterisation_walks_through_its_places_and_is_kept_for_the_model(qtbot, at, demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        plan = propose(session, wanted, act.at.date(), RunKind.CHARACTERISE).plan
        run = bench_shop.open_run(session, wanted, act, replace(plan, effects=("loading_point",), readings=2))
        for line in run.inspection:
            run = bench_shop.look_over(session, run.id, line.line, True, "", act)
        meter = session.query(Reference).filter_by(number="PM-5").one()
        run = bench_shop.choose_reference(session, run.id, meter.id, "", act)
        run = bench_shop.record_room(session, run.id, 21.4, 0.46, "", act)
        run = bench_shop.record_zero(session, run.id, "before", 0.0, act)
        while run.exercising:
            run = bench_shop.record_exercise(session, run.id, None, act)
    window, bench = at(run)
    assert "hand 10 mm nearer" in bench.pulls._instruction.text()
    for value in ("39.8", "39.9", "40.2", "40.3"):
        type_in(window, value)
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.current is None and bench.button.isEnabled(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    assert bench.deciding._sentence.text().replace("\u202f", " ") == "Loading point 0.40 N·m at 40 N·m."
    means = {"hand 10 mm nearer", "39.85", "hand 10 mm further out", "40.25"}

    def shown():
        return {w.text() for w in bench.deciding.findChildren(QLabel) if w.isVisible()}

    qtbot.waitUntil(lambda: means <= shown(), timeout=WAIT)
    click(bench.deciding._of_model._chips["model"])
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    with demo.session() as session:
        kept = session.query(Characterisation).one()
        assert (kept.tool_id, kept.model_id) == (None, bench.run.tool.model_id)
        assert kept.loading_point == pytest.approx(0.4)
    window.go_tool(bench.run.tool.id)
    settle(qtbot, window)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet._number.text() == "HC-0417", timeout=WAIT)
    assert "Clicks" in sheet._sentence.text()  # the last judged run speaks, not the characterisation


def test_every_rules_answer_and_a_simulation_stand_beside_the_verdict(qtbot, at, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    grid = bench.deciding._rules
    answers = [grid.itemAtPosition(i, 2).widget().text() for i in range(4)]
    assert answers == ["does not accept"] * 4
    assert "used here" in grid.itemAtPosition(0, 0).widget().text()
    click(bench.deciding._simulate)
    qtbot.waitUntil(lambda: "Simulated: w" in bench.deciding._simulated.text(), timeout=WAIT)
    click(bench.deciding.outcomes._chips["restricted"])
    assert "120–200" in bench.deciding._due.text().replace("\u202f", " ")
    bench.deciding.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert bench.run.outcome == "restricted"


def test_a_link_is_chosen_tried_and_remembered(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = bench_shop.open_run(session, tool_id(demo, "HC-0417"), act)
        for line in run.inspection:
            run = bench_shop.look_over(session, run.id, line.line, True, "", act)
    master, slave = pty.openpty()
    tty.setraw(master)
    window = open_window(demo_folder)
    window.go_bench(run.tool.id)
    bench = window.place("bench")
    qtbot.waitUntil(lambda: bench.button.text() == "Use PM-5", timeout=WAIT)
    click(bench.set_up._link)
    linking = bench.set_up.linking
    assert linking.isVisible()
    linking.typed.line.setText("plain:")
    QTest.keyClick(linking.typed.line, ENTER)
    qtbot.waitUntil(lambda: "names no port" in linking.typed._hint.text(), timeout=WAIT)
    linking.typed.line.setText(f"plain:{os.ttyname(slave)}")
    click(next(b for b in linking.findChildren(QPushButton) if b.text() == "Remember this link"))
    qtbot.waitUntil(lambda: not linking.isVisible(), timeout=WAIT)
    qtbot.waitUntil(
        lambda: bench.set_up._candidates and bench.set_up._candidates[0].reference.link != "stand-in", timeout=WAIT
    )
    bench.set_up.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.meter.identity is not None, timeout=WAIT)
    assert "one a line" in bench._meter_words.text()
    with demo.session() as session:
        bench_shop.record_room(session, run.id, 21.4, 0.46, "", act)
        bench_shop.record_zero(session, run.id, "before", 0.0, act)
        for _ in range(5):
            bench_shop.record_exercise(session, run.id, None, act)
    window.go("bench")
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    os.write(master, b"39.9 N.m\n-40.2\n")
    qtbot.waitUntil(lambda: "counter-clockwise" in bench.pulls._notice.text(), timeout=WAIT)
    assert [(r.torque, r.source) for r in bench.run.series[0].readings] == [(39.9, "meter value")]
    window.close()
    os.close(master)


def test_a_trace_kept_as_csv_gives_its_reading_like_a_meter(qtbot, at, demo, act, tmp_path):
    from tests.core.test_trace import click as pulled

    times, torque = pulled(1000, rise=2.0)
    file = tmp_path / "pull.csv"
    file.write_text(
        "time_s,torque [N.m]\n" + "\n".join(f"{t:.3f},{x / 3:.4f}" for t, x in zip(times, torque, strict=True))
    )
    with demo.session() as session:
        session.query(Reference).filter_by(number="PM-5").one().link = f"replay:{file}?speed=4"
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    _, bench = at(run)
    qtbot.waitUntil(lambda: len(bench.run.series[0].readings) == 1, timeout=WAIT)
    assert bench.run.series[0].readings[0].torque == pytest.approx(118 / 3, rel=0.002)
    qtbot.waitUntil(lambda: "is at its end" in bench._meter_words.text(), timeout=WAIT)
    assert bench._connect.isVisible()


@pytest.mark.parametrize(
    ("mode", "clicks", "expected"),
    [(MeterMode.FIRST_PEAK, True, 100.0), (MeterMode.PEAK, True, 104.6), (MeterMode.HOLD, False, 100.0)],
)
def test_the_mode_decides_what_of_a_pull_is_the_reading(qtbot, mode, clicks, expected):
    truth = Truth(scatter=0, first_high=0, clicks=clicks)
    stand_in = StandIn(StandInPlan(speed=10, tools={"W": truth}))
    watch = MeterWatch(stand_in.url, Aim(100.0, mode, Mechanism.CLICK if clicks else Mechanism.DIAL))
    reports = []
    watch.pulled.connect(reports.append)
    with qtbot.waitSignal(watch.identified, timeout=WAIT):
        watch.start()
    for command in ("tool W", "set 100 N.m", "pull"):
        watch.send(command)
    levels = []
    watch.samples.connect(lambda samples, rate: levels.append(float(np.abs(samples).max())))
    qtbot.waitUntil(lambda: len(levels) > 3 and levels[-1] > 99, timeout=WAIT)
    qtbot.wait(150)
    watch.send("release")
    qtbot.waitUntil(lambda: bool(reports), timeout=WAIT)
    watch.stop()
    stand_in.close()
    assert reports[0].reading == pytest.approx(expected, rel=0.012)
    assert reports[0].announced is (mode is MeterMode.FIRST_PEAK)
    assert reports[0].turned == "cw"


KILLED_ADJUSTING = """
import sys
from datetime import datetime
from pathlib import Path
from reckoner.demo.scenario import demo_today
from reckoner.shop import adjusting, bench
from reckoner.shop.acts import Act
from reckoner.store.database import Database
from tests.conftest import tool_id
from tests.shop.test_adjusting import outside
database = Database(Path(sys.argv[1]))
act = Act(1, datetime.combine(demo_today(), datetime.now().time()).astimezone())
with database.session() as session:
    run = outside(session, tool_id(database, "HC-0417"), act)
for change in (
    lambda s: adjusting.begin(s, run.id, run.series[0].id, act),
    lambda s: adjusting.turn(s, run.id, 0.25, act),
    lambda s: bench.record_reading(s, run.id, 39.0, "typed", act),
):
    with database.session() as session:
        change(session)
print("turned and read", flush=True)
input()
"""


def test_a_process_killed_while_adjusting_opens_at_the_same_turn(qtbot, open_window, demo_folder, demo):
    child = subprocess.Popen(
        [sys.executable, "-c", textwrap.dedent(KILLED_ADJUSTING), str(demo_folder)],
        stdout=subprocess.PIPE, stdin=subprocess.PIPE, text=True,
    )  # fmt: skip
    assert child.stdout.readline().strip() == "turned and read"
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    child.stdout.close()
    child.stdin.close()
    window = open_window(demo_folder)
    window.go_bench(tool_id(demo, "HC-0417"))
    bench = window.place("bench")
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.ADJUST, timeout=WAIT)
    assert [s.turn for s in bench.run.adjusting.steps] == [None, 0.25]
    assert bench.run.adjusting.steps[1].torques == (39.0,)
    assert bench.run.adjusting.advice.next_turn > 0
    qtbot.waitUntil(lambda: bench.meter_zero() is not None, timeout=WAIT)
    pull(qtbot, window, bench)
    assert len(bench.run.adjusting.steps[1].torques) == 2


def test_what_is_proposed_changes_with_the_kind_of_run(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    start = bench.start
    click(start.kinds._chips["check"])
    qtbot.waitUntil(lambda: start.rule_sets.one == "quick-check", timeout=WAIT)
    assert start.points.text.startswith("120")
    click(start.kinds._chips["characterise"])
    qtbot.waitUntil(lambda: start.effects.isVisible(), timeout=WAIT)
    assert start.points.text.startswith("40")
    click(start.kinds._chips["full"])
    qtbot.waitUntil(lambda: start.points.text.startswith("40, 120, 200"), timeout=WAIT)
    click(start.modes._chips["peak"])
    assert "past the signal" in start._warnings.text()
    start.points.line.setText("forty")
    press(window, ENTER)
    assert "is not a torque" in start.points._hint.text()
    assert bench.run is None


@pytest.mark.parametrize("number", ["HC-0131", "HC-0340"])
def test_a_proposal_taken_as_it_stands_needs_no_reason_and_keeps_the_points_of_before(
    qtbot, open_window, demo_folder, demo, number
):
    """Points such as 1.2 N·m, or in pound-force feet, come back from their text in another last bit."""
    window = open_window(demo_folder)
    bench = opened(qtbot, window, number, demo)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    with demo.session() as session:
        before = earlier_series(session, bench.run.tool.id, bench.run.opened)
    assert [s.target for s in bench.run.series] == [e.target for e in before]


@pytest.mark.parametrize(
    ("text", "unit", "points"),
    [
        ("40, 120, 200 N·m", "N.m", (40, 120, 200)),
        ("200;40", "N.m", (40, 200)),
        ("2,5 / 5 N.m", "N.m", (2.5, 5)),
        ("30 lbf.ft, 100", "lbf.ft", (40.6745, 135.5818)),
    ],
)
def test_points_are_read_as_they_are_written(text, unit, points):
    assert read_points(text, unit_named(unit)) == pytest.approx(points, rel=1e-5)
    for bad in ("", "x", "40, y"):
        with pytest.raises(InputRefused):
            read_points(bad, N_M)


@pytest.mark.parametrize(
    ("turn", "words"), [(0.5, "+½"), (-0.375, "−⅜"), (1.25, "+1 ¼"), (-1.0, "−1"), (0.01, "no turn")]
)
def test_turns_are_written_in_eighths_and_drawn(qtbot, theme, turn, words):
    assert turn_words(turn) == words
    screw, plot = ScrewHead(theme), TurnsPlot(theme)
    for widget in (screw, plot):
        qtbot.addWidget(widget)
    screw.resize(screw.sizeHint())
    screw.show_turn(0.25, 0.0)
    still = screw.grab().toImage()
    screw.show_turn(0.25, turn)
    assert (screw.grab().toImage() != still) is (words != "no turn")
    plot.resize(400, 200)
    empty = plot.grab().toImage()
    plot.show_line(TurnsLine(((0.0, (52.1,)), (0.5, (55.9, 56.0))), 60.0, N_M, 7.4, turn))
    assert plot.grab().toImage() != empty


def test_chips_go_on_in_the_next_line_and_one_or_several_are_chosen(qtbot, theme):
    chips = Chips(theme, "Fruit", several=True)
    qtbot.addWidget(chips)
    chips.offer([(str(i), f"choice number {i}") for i in range(6)], ["2"])
    assert isinstance(chips.layout(), Flow)
    assert chips.layout().heightForWidth(300) > chips.layout().heightForWidth(2000)
    chips.resize(300, 200)
    chips.show()
    chips.layout().setGeometry(QRect(0, 0, 300, 200))
    boxes = [chip.geometry() for chip in chips._chips.values()]
    assert not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[:i])
    with qtbot.waitSignal(chips.chosen):
        click(chips._chips["4"])
    click(chips._chips["2"])
    assert chips.on == ("4",)
    assert "chosen" in chips._chips["4"].accessibleName()


def test_sounds_go_to_the_systems_player(qtbot, open_window, demo_folder, tmp_path, monkeypatch):
    window = open_window(demo_folder)
    player = tmp_path / "aplay"
    player.write_text(f'#!/bin/sh\necho "$1" >> {tmp_path}/played\n')
    player.chmod(0o755)
    monkeypatch.setenv("PATH", str(tmp_path), prepend=os.pathsep)
    owner = QWidget()
    qtbot.addWidget(owner)
    sounds = Sounds(owner, window.around.work)
    settle(qtbot, window)
    sounds.play("taken")
    qtbot.waitUntil(
        lambda: (tmp_path / "played").exists() and "taken.wav" in (tmp_path / "played").read_text(), timeout=WAIT
    )
    assert sorted(f.stem for f in FOLDER.glob("*.wav")) == ["refused", "series", "taken"]


def test_adjusting_is_offered_only_to_those_who_may(qtbot, at, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    assert bench.deciding._adjust.isVisible()
    window._be(next(p for p in window._people if not p.may_adjust))
    settle(qtbot, window)
    assert not bench.deciding._adjust.isVisible()
    assert "does not have the right to adjust" in bench.deciding._cannot_adjust.text()
    later = replace(act, at=act.at + timedelta(hours=1))
    with demo.session() as session:
        begun = adjusting.begin(session, run.id, run.series[0].id, later)
        assert begun.step is Step.ADJUST
        assert signing.choices(begun, act.at.date())
