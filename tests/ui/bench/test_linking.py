"""How a reference is linked from this station."""

import os
import pty
import tty

import pytest
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QPushButton

from reckoner.core.quantities.ownunits import METRIC
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Reference
from reckoner.store.terms import ZeroMoment
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, press, taken
from tests.support.runs import prepared, tool_id
from tests.ui.bench.test_weights import at_the_set_up, hang


def test_a_link_is_chosen_tried_and_remembered(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = opening.open_run(session, tool_id(demo, "HC-0417"), act)
        for line in run.inspection:
            run = setting_up.look_over(session, run.id, line.line, True, "", act)
    master, slave = pty.openpty()
    tty.setraw(master)
    window = open_window(demo_folder)
    go(window, "bench", tool=run.tool.id)
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.button.text() == "Use PM-5", timeout=WAIT)
    click(bench.panels.set_up.link_button)
    linking = bench.panels.set_up.linking
    assert linking.isVisible()
    linking.typed.line.setText("plain:")
    QTest.keyClick(linking.typed.line, ENTER)
    qtbot.waitUntil(lambda: "names no port" in linking.typed.hint.text(), timeout=WAIT)
    linking.typed.line.setText(f"plain:{os.ttyname(slave)}")
    click(next(b for b in linking.findChildren(QPushButton) if b.text() == "Remember this link"))
    qtbot.waitUntil(lambda: not linking.isVisible(), timeout=WAIT)
    qtbot.waitUntil(lambda: window.around.station.link_of("PM-5", "stand-in").startswith("plain:"), timeout=WAIT)
    bench.panels.set_up.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.meter.identity is not None, timeout=WAIT)
    assert "one a line" in bench.left.meter_words.text()
    with demo.session() as session:
        setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.0, act)
        for _ in range(5):
            taking.record_exercise(session, run.id, None, act)
    go(window, "bench")
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    os.write(master, b"39.9 N.m\n0\n")
    qtbot.waitUntil(lambda: taken(bench.run) == 6, timeout=WAIT)
    qtbot.wait(250)  # two values closer together are no two pulls of a hand
    os.write(master, b"-40.2\n0\n")
    qtbot.waitUntil(lambda: "counter-clockwise" in bench.panels.pulls.head.notice.text(), timeout=WAIT)
    assert [(r.torque, r.source) for r in bench.run.series[0].observations] == [(39.9, "meter value")]
    window.frame.close()
    os.close(master)


def test_a_trace_kept_as_csv_gives_its_reading_like_a_meter(qtbot, at, demo, act, tmp_path):
    from tests.support.traces import click as pulled

    times, torque = pulled(1000, rise=2.0)
    file = tmp_path / "pull.csv"
    file.write_text(
        "time_s,torque [N.m]\n" + "\n".join(f"{t:.3f},{x / 3:.4f}" for t, x in zip(times, torque, strict=True))
    )
    with demo.session() as session:
        session.query(Reference).filter_by(number="PM-5").one().link = f"replay:{file}?speed=4"
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    _, bench = at(run)
    qtbot.waitUntil(lambda: len(bench.run.series[0].observations) == 1, timeout=WAIT)
    assert bench.run.series[0].observations[0].torque == pytest.approx(118 / 3, rel=0.002)
    qtbot.waitUntil(lambda: "is at its end" in bench.left.meter_words.text(), timeout=WAIT)
    assert bench.left.connect_button.isVisible()


def test_a_hanging_scale_brings_its_peaks_by_its_own_link(qtbot, open_window, demo_folder, demo):
    master, slave = pty.openpty()
    tty.setraw(master)
    window = open_window(demo_folder)
    link = f"plain:{os.ttyname(slave)}"
    window.around.station.set_link("HS-1", link)  # as it stands: without a unit it would be a torque
    window, bench, sheet = at_the_set_up(qtbot, window, tool_id(demo, "HC-0302"), "HS-1")
    assert bench.panels.set_up.link_button.isVisible()
    sheet.weight.line.setText("9.967 kg")
    sheet.showed.line.setText("9.97 kg")
    bench.setFocus()
    hang(qtbot, window, bench)
    qtbot.waitUntil(lambda: "should send a force or a mass" in bench.left.meter_words.text(), timeout=WAIT)
    os.write(master, b"6.40 kg\n0\n")
    qtbot.wait(600)
    assert taken(bench.run) == taken_before(bench.run)
    window.around.station.set_link("HS-1", f"{link}?unit=kg")
    bench.meter.hang_up()
    go(window, "bench")
    qtbot.waitUntil(lambda: bench.meter.linked, timeout=WAIT)
    os.write(master, b"GS 6.40 kg\n0\n")
    qtbot.waitUntil(lambda: len(bench.run.current.pairs) == 1, timeout=WAIT)
    pull = bench.run.reference.set_up
    assert bench.run.current.pairs[0].reference == pytest.approx(pull.read("6.40 kg", METRIC)[0])
    assert bench.run.current.observations[0].source == "meter value"
    window.frame.close()
    os.close(master)


def taken_before(run):
    """Nothing was read yet: what was counted are the releases."""
    return sum(e.done for e in run.exercise)
