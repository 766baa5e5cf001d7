"""Deciding: signatures, amendments, every rule's answer, who may adjust."""

from datetime import timedelta
from pathlib import Path

import numpy as np
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QDesktopServices
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QFileDialog
from sqlalchemy import func, select

from reckoner.formats import rulesets
from reckoner.shop.numbering import certificate_number
from reckoner.shop.runs import adjusting, signing
from reckoner.shop.runs.outcomes import choices
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Run, Signature, Tool, Trace
from reckoner.store.schema.links import PassphraseTry
from reckoner.store.terms import RegisterKind, Right
from reckoner.ui.places import PlaceId
from tests.support.clock import NOW
from tests.support.hands import ENTER, WAIT, click, focused, go, look, press, settle, type_in
from tests.support.runs import later, outside, prepared, read_all, tool_id


def test_a_second_person_signs_where_the_rule_set_asks(qtbot, at, demo, act, monkeypatch):
    text = rulesets.shipped_text("iso-6789-2017") + "\n[signing]\nsecond_person = true\n"
    monkeypatch.setattr("reckoner.shop.runs.opening.rule_set_text", lambda name, tool: text)
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    assert not bench.button.isEnabled()
    qtbot.waitUntil(lambda: bool(bench.panels.deciding.second.chips), timeout=WAIT)
    beside = bench.panels.deciding.second.chips
    assert "R. K." not in [chip.text() for chip in beside.values()]
    click(next(chip for chip in beside.values() if chip.text() == "M. T."))
    bench.panels.deciding.remark.line.setText("witnessed")
    bench.panels.deciding.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert "R. K. and M. T." in bench.panels.deciding.due.text()
    with demo.session() as session:
        assert session.query(Signature).order_by(Signature.id.desc()).first().note == "witnessed"


def test_a_signed_run_is_amended_in_the_window_and_the_old_one_stays(qtbot, at, demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    click(bench.panels.deciding.amend)
    bench.panels.deciding.amend_why.line.setText("the 40 N·m value was misread")
    QTest.keyClick(bench.panels.deciding.amend_why.line, ENTER)
    qtbot.waitUntil(lambda: bench.run.amends == run.id, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.step is Step.DECIDE
    assert "amends the run signed" in bench.panels.deciding.beside.text()
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
    go(window, "tools", tool=tool_id(demo, "HC-0422"))
    place = window.current
    qtbot.waitUntil(lambda: place.sheet.number.text() == "HC-0422", timeout=WAIT)
    settle(qtbot, window)
    story = place.sheet.story
    rows = [row for row, line in enumerate(story.story.lines) if line.what == "Full run"]
    assert len(rows) == 4
    click(story.viewport(), story.visualRect(story.story.index(rows[0])).center())
    bench = window.place(PlaceId("bench"))
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.signed, timeout=WAIT)
    settle(qtbot, window)
    assert "Signed by" in bench.panels.deciding.due.text()
    assert bench.panels.deciding.amend.isVisible()
    assert bench.meter.identity is None  # a signed run dials no meter


def test_every_rules_answer_and_a_simulation_stand_beside_the_verdict(qtbot, at, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    grid = bench.panels.deciding.numbers.rules
    answers = [grid.itemAtPosition(i, 2).widget().text() for i in range(4)]
    assert answers == ["does not accept"] * 4
    assert "used here" in grid.itemAtPosition(0, 0).widget().text()
    held = [grid.itemAtPosition(i, 1).widget().text().replace("\u202f", " ") for i in range(3)]
    assert held[:2] == ["7.53 % of ±4.0 %"] * 2
    assert held[2].startswith("7.53 % + 1.6")  # with g·W, as the guarded rule holds it
    click(bench.panels.deciding.numbers.simulate)
    qtbot.waitUntil(lambda: "Simulated: w" in bench.panels.deciding.numbers.simulated.text(), timeout=WAIT)
    click(bench.panels.deciding.outcomes.chips["restricted"])
    assert "120–200" in bench.panels.deciding.due.text().replace("\u202f", " ")
    bench.panels.deciding.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert bench.run.signature.outcome == "restricted"


def test_adjusting_is_offered_only_to_those_who_may(qtbot, at, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    assert bench.panels.deciding.adjust.isVisible()
    window.seat.be(next(p for p in window.who.people if Right.ADJUST not in p.rights))
    settle(qtbot, window)
    assert not bench.panels.deciding.adjust.isVisible()
    assert "does not have the right to adjust" in bench.panels.deciding.cannot_adjust.text()
    with demo.session() as session:
        begun = adjusting.begin(session, run.id, run.series[0].id, later(act, 1))
        assert begun.step is Step.ADJUST
        assert choices(begun, act.at.date())


def test_how_a_model_is_adjusted_is_said_where_adjusting_is_closed_for_it(qtbot, at, demo, act):
    """As of every tool that was brought in: nothing of its screw is in the register."""
    with demo.session() as session:
        session.get_one(Tool, tool_id(demo, "HC-0417")).model.adjust_where = ""
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window, bench = at(run)
    panel = bench.panels.deciding
    assert not panel.adjust.isVisible()
    assert "say where its screw is" in panel.cannot_adjust.text()
    panel.how_adjusted.where.setFocus()
    type_in(window, "in the handle's end")
    press(window, Qt.Key.Key_Tab)  # left, and so kept
    qtbot.waitUntil(lambda: panel.adjust.isVisible(), timeout=WAIT)
    settle(qtbot, window)
    assert not panel.how_adjusted.isVisible()
    assert window.foot.words.startswith("Kept: ")
    with demo.session() as session:
        assert session.get_one(Tool, run.tool.id).model.adjust_where == "in the handle's end"
        assert adjusting.begin(session, run.id, run.series[0].id, later(act, 1)).step is Step.ADJUST


def test_signing_pressed_twice_signs_once_and_complains_of_nothing(qtbot, at, demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    press(window, ENTER)
    QTest.keyClick(focused(window), ENTER)
    click(bench.button)
    settle(qtbot, window)
    assert bench.run.signed
    assert not bench.right.fault.isVisible()


def test_a_run_is_signed_with_a_passphrase_and_wrong_ones_slow_down(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
    window = open_window(demo_folder)
    go(window, "tools", register=RegisterKind.PERSON, row=act.person_id)
    settle(qtbot, window)
    setter = window.current.other.above
    qtbot.waitUntil(lambda: setter.told.text() == "Signs with initials.", timeout=WAIT)
    setter._open()
    setter.first.line.setText("a crow-foot is not a bird")
    setter.again.line.setText("a crow-foot is no bird")
    click(setter.keep)
    assert "not the same" in setter.again.hint.text()
    setter.again.line.setText("a crow-foot is not a bird")
    click(setter.keep)
    qtbot.waitUntil(lambda: window.around.person.keyed, timeout=WAIT)
    go(window, "bench", run=run.id)
    bench = window.current
    qtbot.waitUntil(lambda: bench.run is not None and bench.panels.deciding.passphrases.own.isVisible(), timeout=WAIT)
    panel = bench.panels.deciding
    for typed, said in (
        ("", "Type it"),
        ("wrong one", None),
        ("wrong two", None),
        ("wrong three", "Wrong ones slow down"),
    ):
        panel.passphrases.own.line.setText(typed)
        settle(qtbot, window)
        look(window)
        bench.primary()
        settle(qtbot, window)
        assert said is None or said in panel.passphrases.own.hint.text()
    assert not bench.run.signed
    with demo.session() as session:
        assert session.scalar(select(func.count()).select_from(PassphraseTry)) == 2  # a third was not looked at
    window.around.now = lambda: NOW + timedelta(minutes=10)
    panel.passphrases.own.line.setText("a crow-foot is not a bird")
    bench.primary()
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)


def pulled(reading):
    """A pull to a click at ``reading``: a ramp, a dip, the hand going on."""
    ramp = np.linspace(0, reading, 1000)
    return np.concatenate([ramp, np.full(40, 0.9 * reading), np.full(200, 1.05 * reading)]).astype("<f4").tobytes()


def test_a_signed_run_opens_from_the_history_with_the_pulls_behind_its_readings(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        second = run.found[1]
        for i, observation in enumerate(second.observations):
            made = {"over_travel": 0.05, "time_80_to_100": 0.9} if i else {}
            faults = '["jerk"]' if i == 2 else "[]"
            samples = pulled(observation.torque)
            session.add(Trace(observation_id=observation.id, rate=1000.0, samples=samples, faults=faults, **made))
        session.flush()
        signing.sign(session, run.id, later(act, 1))
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    settle(qtbot, window)
    window.current.sheet.opened.emit(run.id)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.id == run.id, timeout=WAIT)
    pulls = bench.panels.deciding.pulls
    qtbot.waitUntil(lambda: len(pulls.pulls) == 5, timeout=WAIT)
    assert [chip.text() for chip in pulls.points.chips.values()] == ["120\u202fN·m"]  # the others were typed
    assert [p.at for p in pulls.pulls] == [int(np.argmax(p.samples >= 0.999 * p.reading)) for p in pulls.pulls]
    assert "80 to 100 %" not in pulls.words.text()
    pulls.picture.setFocus()
    press(window, Qt.Key.Key_Right)
    press(window, Qt.Key.Key_Right)
    assert pulls.words.text().startswith("Pull 3 of 5: ")
    assert pulls.words.text().endswith("80 to 100 % in 0.90 s; the hand went 5.0\u202f% past the signal; jerk.")
    press(window, Qt.Key.Key_Left)
    assert pulls.picture.accessibleDescription() == "5 pulls, number 2 in front"


def test_a_run_of_typed_readings_shows_no_pulls(qtbot, at, demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    _window, bench = at(run)
    assert not bench.panels.deciding.pulls.isVisible()


def test_a_signed_run_becomes_a_certificate_and_a_folder_that_cannot_be_written_is_told(
    qtbot, at, demo, act, tmp_path, monkeypatch
):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
    window, bench = at(run)
    certificate = bench.panels.deciding.certificate
    assert not certificate.button.isVisible()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed and certificate.button.isVisible(), timeout=WAIT)
    path = tmp_path / "HC-0417.pdf"
    certificate.save(path)
    qtbot.waitUntil(path.exists, timeout=WAIT)
    qtbot.waitUntil(lambda: window.foot.words == f"The certificate is in {path}.", timeout=WAIT)
    assert "HC-0417" in PdfReader(path).pages[0].extract_text()
    chosen = []
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *asked: (chosen.append(asked[2]), (str(tmp_path / "mine"), ""))[1]
    )
    click(certificate.button)
    qtbot.waitUntil((tmp_path / "mine.pdf").exists, timeout=WAIT)  # a suffix that nobody typed
    assert Path(chosen[0]).name == f"HC-0417 {certificate_number(bench.run)} certificate.pdf"
    qtbot.waitUntil(lambda: window.foot.words == f"The certificate is in {tmp_path / 'mine.pdf'}.", timeout=WAIT)
    opened = []
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda url: opened.append(url.toLocalFile()) or True)
    click(window.foot.open_button)
    click(window.foot.folder_button)
    assert opened == [str(tmp_path / "mine.pdf"), str(tmp_path)]
    click(certificate.button)
    assert Path(chosen[1]).parent == tmp_path  # the folder that was used last for papers
    monkeypatch.setattr(QDesktopServices, "openUrl", lambda _url: False)
    qtbot.waitUntil(window.foot.open_button.isVisible, timeout=WAIT)
    click(window.foot.open_button)
    assert window.foot.words == f"Nothing on this desktop opens mine.pdf; it lies in {tmp_path}."
    assert not window.foot.open_button.isVisible()
    settle(qtbot, window)
    (tmp_path / "mine.pdf").unlink()
    certificate.save(tmp_path / "not there" / "HC-0417.pdf")
    qtbot.waitUntil(lambda: "could not be written" in bench.right.fault.text(), timeout=WAIT)
    assert sorted(tmp_path.glob("*.pdf")) == [path]
