"""Characterisations, exercise off the meter, and room for everything."""

import math
import os
from dataclasses import replace

import numpy as np
import pytest
from PyQt6.QtCore import QRect, Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QLabel, QWidget

from reckoner.meters.pull import Pull
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Characterisation, Reference
from reckoner.store.station import Station
from reckoner.store.terms import RunKind, ZeroMoment
from reckoner.ui.layout import Scrolling
from reckoner.ui.sounds import AT_ONCE, FOLDER, Sounds
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import Flow
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.runs import read_all, tool_id


def test_exercise_past_what_the_meter_bears_is_done_elsewhere_and_never_counted_on_it(qtbot, at, demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        plan = propose(session, wanted, act.at.date(), RunKind.CHARACTERISE).plan
        run = opening.open_run(session, wanted, act, plan)
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
        weak = session.query(Reference).filter_by(number="PM-4").one()
        with pytest.raises(ShopRefused, match=r"ends at 100.*exercise goes to 200"):
            setting_up.choose_reference(session, run.id, weak.id, "", act)
        run = setting_up.choose_reference(session, run.id, weak.id, "the other is away", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
    window, bench = at(run)
    assert "On a stub: PM-4 cannot bear it" in bench.panels.pulls.head.instruction.text()
    qtbot.waitUntil(lambda: bench.meter.linked, timeout=WAIT)
    QTest.keyPress(window, Qt.Key.Key_Space)
    assert not bench.meter.pulling
    QTest.keyRelease(window, Qt.Key.Key_Space)
    bench.taker.pulled(Pull("a pull", (99.0,), (99.0,), 101.0, (), np.zeros(50), 1000.0))
    assert "Nothing was counted" in bench.panels.pulls.head.notice.text()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.exercise[0].done == bench.run.exercise[0].wanted, timeout=WAIT)


@pytest.mark.parametrize("kind", [RunKind.FULL, RunKind.CHARACTERISE])
def test_nothing_on_the_bench_is_wider_than_its_room_however_many_series_there_are(qtbot, at, demo, act, kind):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0318")
        plan = propose(session, wanted, act.at.date(), kind).plan
        run = opening.open_run(session, wanted, act, plan)
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        meter = session.query(Reference).filter_by(number="PM-6").one()
        run = setting_up.choose_reference(session, run.id, meter.id, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        run = read_all(session, run, act, 0.99)
    window, bench = at(run)
    for size in ((1280, 800), (1024, 700)):
        window.frame.resize(*size)
        qtbot.wait(50)  # the columns are shared out anew
        for area in (a for a in bench.findChildren(Scrolling) if a.isVisible()):

            def fits(area=area):
                content, layout = area.widget(), area.widget().layout()
                wide = content.width() == area.viewport().width()
                return wide and content.height() >= layout.totalHeightForWidth(content.width())

            qtbot.waitUntil(fits, timeout=WAIT)


def test_a_characterisation_walks_through_its_places_and_is_kept_for_the_model(qtbot, at, demo, act):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        plan = propose(session, wanted, act.at.date(), RunKind.CHARACTERISE).plan
        run = opening.open_run(session, wanted, act, replace(plan, effects=("loading_point",), readings=2))
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
        meter = session.query(Reference).filter_by(number="PM-5").one()
        run = setting_up.choose_reference(session, run.id, meter.id, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
    window, bench = at(run)
    assert "hand 10 mm nearer" in bench.panels.pulls.head.instruction.text()
    shows = bench.run.reference.correction(40.0)
    for value in ("39.8", "39.9", "40.2", "40.3"):
        type_in(window, value)
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.current is None and bench.button.isEnabled(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    assert bench.panels.deciding.sentence.text().replace("\u202f", " ") == "Loading point 0.39 N·m (ν 15.5) at 40 N·m."
    means = {"hand 10 mm nearer", f"{39.85 / shows:.2f}", "hand 10 mm further out", f"{40.25 / shows:.2f}"}

    def shown():
        return {w.text() for w in bench.panels.deciding.findChildren(QLabel) if w.isVisible()}

    qtbot.waitUntil(lambda: means <= shown(), timeout=WAIT)
    click(bench.panels.deciding.of_model.chips["model"])
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    with demo.session() as session:
        kept = session.query(Characterisation).one()
        assert (kept.tool_id, kept.model_id) == (None, bench.run.tool.model_id)
        assert kept.loading_point == pytest.approx(math.sqrt(0.4**2 - 0.005) / shows)  # less what the pulls scatter
    go(window, "tools", tool=bench.run.tool.id)
    settle(qtbot, window)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == "HC-0417", timeout=WAIT)
    assert "Clicks" in sheet.sentence.text()  # the last judged run speaks, not the characterisation


def test_chips_go_on_in_the_next_line_and_one_or_several_are_chosen(qtbot, theme):
    chips = Chips(theme, "Fruit", several=True)
    qtbot.addWidget(chips)
    chips.offer([(str(i), f"choice number {i}") for i in range(6)], ["2"])
    assert isinstance(chips.layout(), Flow)
    assert chips.layout().heightForWidth(300) > chips.layout().heightForWidth(2000)
    chips.resize(300, 200)
    chips.show()
    chips.layout().setGeometry(QRect(0, 0, 300, 200))
    boxes = [chip.geometry() for chip in chips.chips.values()]
    assert not any(a.intersects(b) for i, a in enumerate(boxes) for b in boxes[:i])
    with qtbot.waitSignal(chips.chosen):
        click(chips.chips["4"])
    click(chips.chips["2"])
    assert chips.on == ("4",)
    assert "chosen" in chips.chips["4"].accessibleName()


def test_sounds_go_to_the_systems_player(qtbot, tmp_path, monkeypatch):
    player = tmp_path / "aplay"
    player.write_text(f'#!/bin/sh\necho "$1" >> {tmp_path}/played\n')
    player.chmod(0o755)
    monkeypatch.setenv("PATH", str(tmp_path), prepend=os.pathsep)
    owner = QWidget()
    qtbot.addWidget(owner)
    sounds = Sounds(owner, Station(tmp_path / "own.json"), print)
    sounds.play("taken")
    qtbot.waitUntil(
        lambda: (tmp_path / "played").exists() and "taken.wav" in (tmp_path / "played").read_text(), timeout=WAIT
    )
    player.write_text(f"#!/bin/sh\necho hangs >> {tmp_path}/hanging\nexec sleep 60\n")
    for _ in range(20):
        sounds.play("taken")
    qtbot.waitUntil(lambda: (tmp_path / "hanging").exists(), timeout=WAIT)
    qtbot.wait(300)
    assert (tmp_path / "hanging").read_text().count("hangs") <= AT_ONCE  # and not twenty
    assert sorted(f.stem for f in FOLDER.glob("*.wav")) == ["refused", "series", "taken"]
