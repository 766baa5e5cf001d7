"""Without the demo: an empty register says what to do first, an imported one works, the stand-in is a process."""

import subprocess
import sys

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QPushButton

from reckoner.__main__ import opening_of
from reckoner.cli.options import WindowOptions
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.meters.link import MeterLink
from reckoner.meters.protocol import Identity
from reckoner.shop.facts.shapes import Shape
from reckoner.shop.planning.agenda import OpeningStage
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.gear import StampedMass
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs.records import Step
from reckoner.shop.words.results import margin, plain_error, settable
from reckoner.store.database import Database
from reckoner.store.schema import Tool
from reckoner.ui.app import make_window
from reckoner.ui.gallery import example_card
from reckoner.ui.places import PlaceId
from tests.support.clock import NOW
from tests.support.hands import ENTER, WAIT, click, go, look, press, settle, type_in
from tests.support.runs import REGISTER


def test_a_demo_cut_short_before_it_was_filled_is_filled_at_the_next_opening(tmp_path):
    Database(tmp_path).close()  # what a kill in the middle of filling leaves: one change, all or nothing
    opening = opening_of(WindowOptions(tmp_path, True, None, False), lambda reference, link: "")
    told = []
    for _ in range(2):
        database = opening.open_database(lambda *done: told.append(done), False)
        with database.session() as session:
            assert session.query(Tool).count() == 46
        database.close()
    assert told[0][1:] == (0, 46)
    assert told[-1][1:] == (46, 46)


@pytest.fixture
def own_window(qtbot, theme, tmp_path):
    """A window on a folder of one's own, as `reckoner --data FOLDER` opens it."""
    made = []

    def make():
        window = make_window(
            opening_of(
                WindowOptions(tmp_path, False, None, False, tmp_path / "station.json"), lambda reference, link: ""
            ),
            theme,
        )
        made.append(window)
        window.frame.show()
        window.around.work.start()
        qtbot.waitUntil(lambda: window.current.seen, timeout=WAIT)
        settle(qtbot, window)
        return window

    yield make
    for window in made:
        window.frame.close()
        window.frame.deleteLater()


def test_a_first_run_is_reached_with_the_mouse_alone(qtbot, own_window):
    """Every answer is a click; nothing is typed, and nothing that can wait is asked."""
    window = own_window()
    first = window.current.first
    assert not window.who.button.isVisible()
    assert not first.button.isEnabled()
    for letter in "KL":
        click(next(b for b in first.person.findChildren(QPushButton) if b.text() == letter))
    assert first.person.initials.text == "K. L."
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.WITH_WHAT and window.around.person is not None, timeout=WAIT)
    assert window.who.button.text() == "K. L."
    click(first.meter.range.usual.chips["20–200\u202fN·m"])
    assert "certificate" in first.foot.words.text()
    click(first.meter.proofs.chips["certified"])
    click(first.meter.uncertainty.usual.chips["0.5 %"])
    click(first.meter.due.usual.chips["24 Aug 2027"])
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.FIRST_TOOL, timeout=WAIT)
    click(first.tool.model.pictures[Shape.CLICK_WRENCH])
    click(first.tool.model.range.usual.chips["40–200\u202fN·m"])
    click(first.tool.model.drives.chips["½ in"])
    click(first.button)
    qtbot.waitUntil(lambda: window.current is not window.place("today"), timeout=WAIT)
    bench = window.current
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    assert bench.panels.start.title.text() == "T-001 comes to the bench"
    look(window)
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    tool = bench.run.tool
    assert (tool.kind.minimum, tool.kind.maximum, tool.drive, tool.kind.tool) == (40, 200, "½ in", ("II", "A"))
    go(window, "tools", tool=tool.id)
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == "T-001", timeout=WAIT)
    assert sheet.sentence.text() == "Never tested. Its first run is begun on the bench and not signed."
    assert not sheet.story.isVisible()


def test_a_meter_is_described_without_the_mouse(qtbot, own_window):
    """Each step has the focus where one begins to type; digits on the usual values begin the field for any other."""
    window = own_window()
    first = window.current.first
    type_in(window, "K. L.")
    press(window, ENTER)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.WITH_WHAT and window.around.person is not None, timeout=WAIT)
    look(window)
    type_in(window, "20-150 lbf.ft")
    assert first.meter.range.text == "20-150 lbf.ft"
    for _ in range(4):  # over the steps, to whether it has a certificate
        press(window, Qt.Key.Key_Tab)
    press(window, Qt.Key.Key_Space)
    assert first.meter.proofs.one == "certified"
    for _ in range(2):
        press(window, Qt.Key.Key_Tab)
    type_in(window, "0.75")
    assert (first.meter.uncertainty.text, first.meter.range.text) == ("0.75", "20-150 lbf.ft")
    first.meter.due.setFocus()
    type_in(window, "1 Sep 2027")
    press(window, ENTER)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.FIRST_TOOL, timeout=WAIT)
    assert window.top_line.text() == ""


def test_a_shop_with_weights_alone_reaches_its_first_run_with_the_mouse(qtbot, own_window, tmp_path):
    """The stamps are pressed; until they are weighed its runs are shop checks, and it says so."""
    window = own_window()
    first = window.current.first
    for letter in "KL":
        click(next(b for b in first.person.findChildren(QPushButton) if b.text() == letter))
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.WITH_WHAT, timeout=WAIT)
    click(first.with_what.chips["weights"])
    assert first.foot.words.text() == "Press at least one weight."
    for stamp in (10.0, 5.0, 5.0, 2.0, 1.0):
        click(first.weights.presses[StampedMass(stamp)])
    first.weights.other.setFocus()
    type_in(window, "33 lb")
    press(window, ENTER)
    press(window, ENTER)  # twice is once: neither another weight nor the page's button
    assert first.weights.told.text().replace("\u202f", " ") == "10 kg + 5 kg + 5 kg + 2 kg + 1 kg + 33 lb"
    assert first.stage is OpeningStage.WITH_WHAT
    type_in(window, "9000 lb")
    click(first.button)
    assert "Cannot be more than 1102" in first.weights.other.hint.text()
    assert first.stage is OpeningStage.WITH_WHAT
    first.weights.other.clear()
    first.weights.other.setFocus()
    type_in(window, "7.26 kg")  # what is typed counts, however it is left
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.FIRST_TOOL, timeout=WAIT)
    assert first.heads[OpeningStage.WITH_WHAT].words.text() == "✓ 7 weights"
    click(first.tool.model.pictures[Shape.CLICK_WRENCH])
    click(first.tool.model.range.usual.chips["5–25\u202fN·m"])
    click(first.tool.model.drives.chips["⅜ in"])
    click(first.button)
    qtbot.waitUntil(lambda: window.current is not window.place("today"), timeout=WAIT)
    bench = window.current
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    look(window)
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    while bench.run.step is Step.LOOK_OVER:
        look(window)
        click(bench.button)
        settle(qtbot, window)
    sheet = bench.panels.set_up.ways.hanging
    qtbot.waitUntil(lambda: sheet.isVisible(), timeout=WAIT)
    assert sheet.lacks.startswith("Say how fine its scale is")
    sheet.graduation.line.setText("9 N·m")
    assert "cannot be one step of its scale" in sheet.lacks
    sheet.graduation.line.setText("0.5 N·m")
    assert sheet.lacks.startswith("Say how far the grip mark is from the drive")
    for field, text in ((sheet.grip, "240 mm"), (sheet.own_mass, "0.5 kg"), (sheet.own_centre, "90 mm")):
        field.line.setText(text)
    assert "at the grip mark" in sheet.lacks or sheet.lacks == ""
    click(sheet.points.chips["5.0"])
    assert "a stamp alone decides nothing" in sheet.worth.text()

    def kept():
        database = Database(tmp_path)
        with database.session() as session:
            tool = session.query(Tool).one()
            found = (tool.lever_length, tool.own_mass, tool.own_centre, tool.resolution)
        database.close()
        return found

    assert kept() == (None,) * 4
    assert bench.button.isEnabled()
    click(bench.button)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    assert kept() == (0.24, 0.5, 0.09, 0.5)  # of the tool from now on, and not asked at the next run
    assert window.foot.words.startswith("Kept: T-001: readable fraction of its graduation; lever, ")
    press(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: kept() == (None,) * 4, timeout=WAIT)


def test_a_shop_with_a_hanging_scale_alone_begins_with_it(qtbot, own_window):
    window = own_window()
    first = window.current.first
    first.person.initials.line.setText("K. L.")
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.WITH_WHAT, timeout=WAIT)
    click(first.with_what.chips["gauge"])
    assert first.foot.words.text() == "Press how far it goes."
    click(first.gauge.reaches.chips["50"])
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.FIRST_TOOL, timeout=WAIT)
    assert first.heads[OpeningStage.WITH_WHAT].words.text() == "✓ HS-1"


def test_an_opening_that_was_interrupted_goes_on_where_it_stopped(qtbot, own_window, tmp_path):
    window = own_window()
    qtbot.keyClicks(window.current.first.person.initials.line, "K. L.")
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current.first.stage is OpeningStage.WITH_WHAT, timeout=WAIT)
    window.frame.close()
    again = own_window()
    first = again.current.first
    assert first.stage is OpeningStage.WITH_WHAT
    assert first.heads[OpeningStage.WHO].words.text() == "✓ K. L."
    qtbot.keyClicks(first.meter.range.line, "20-200 Nm")
    click(first.meter.proofs.chips["unproven"])
    click(first.button)
    qtbot.waitUntil(lambda: first.stage is OpeningStage.FIRST_TOOL, timeout=WAIT)
    qtbot.keyClick(again, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)  # it was another meter
    qtbot.waitUntil(lambda: first.stage is OpeningStage.WITH_WHAT, timeout=WAIT)
    assert again.foot.words == "Taken back: adding M-1."


def test_the_first_page_leads_to_a_register_file_too(qtbot, own_window, tmp_path):
    file = tmp_path / "shop.toml"
    file.write_text(REGISTER)
    window = own_window()
    today = window.current
    today.first.read_in(file)
    qtbot.waitUntil(lambda: not today.is_first, timeout=WAIT)
    assert today.next_title.text() == "Next: test W-1"
    file.write_text("people = 3")
    today.first.read_in(file)
    qtbot.waitUntil(lambda: "people" in today.first.foot.words.text(), timeout=WAIT)


def test_an_import_while_the_empty_window_stands_leads_on_to_the_first_run(qtbot, own_window, tmp_path):
    """What the first page says is done in a terminal beside; the window then offers the tool, and somebody to test it."""
    window = own_window()
    other = Database(tmp_path)
    with other.session() as session:
        take_in(session, register.parse(REGISTER), NOW)
    other.close()
    today = window.current
    qtbot.waitUntil(lambda: today.next_title.text() == "Next: test W-1", timeout=WAIT)
    assert today.summary.text() == "1 tool in the register: 1 overdue"
    qtbot.waitUntil(lambda: window.who.button.isVisible() and window.around.person is not None, timeout=WAIT)
    click(today.button)
    qtbot.waitUntil(lambda: window.current is not today, timeout=WAIT)
    qtbot.waitUntil(lambda: window.current.button.text() == "Put it on the bench", timeout=WAIT)


def test_an_imported_shop_can_put_its_tool_on_the_bench(qtbot, own_window, tmp_path):
    file = tmp_path / "shop.toml"
    file.write_text(REGISTER)
    done = subprocess.run(
        [sys.executable, "-m", "reckoner", "import", str(file), "--data", str(tmp_path)],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert done.stdout == "Added 1 person, 1 model, 1 tool and 1 reference.\n"
    again = subprocess.run(
        [sys.executable, "-m", "reckoner", "--data", str(tmp_path), "import", str(file)], capture_output=True, text=True
    )
    assert (again.returncode, again.stderr.strip()) == (
        2, "There is already a person with the initials K. L.; nothing was added.",
    )  # fmt: skip
    window = own_window()
    assert window.current.next_title.text() == "Next: test W-1"
    assert window.who.button.text() == "K. L."
    window.current.primary()
    qtbot.waitUntil(lambda: window.current.__class__.__name__ == "BenchPlace", timeout=WAIT)
    qtbot.waitUntil(lambda: window.current.button.text() == "Put it on the bench", timeout=WAIT)
    window.current.primary()
    qtbot.waitUntil(lambda: window.current.run is not None, timeout=WAIT)
    assert [s.target for s in window.current.run.series] == [10, 30, 50]
    window.current.left.ask_give_up()
    qtbot.keyClicks(window.current.left.give_up_why.line, "only tried")
    window.current.left.give_up_why.line.returnPressed.emit()
    qtbot.waitUntil(lambda: window.current.run is None, timeout=WAIT)


def test_a_point_that_no_meter_judges_is_said_to_be_left_out_where_enter_begins(qtbot, own_window, tmp_path):
    database = Database(tmp_path)
    with database.session() as session:
        take_in(session, register.parse(REGISTER.replace('minimum = "10 N.m"', 'minimum = "6 N.m"')), NOW)
    database.close()
    window = own_window()
    window.current.primary()
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    look(window)
    start = bench.panels.start
    assert start.left_out.text() == "M-1 judges 10–50\u202fN·m: 6\u202fN·m is left out; the record says so."
    seen = start.left_out.visibleRegion
    qtbot.waitUntil(lambda: seen().boundingRect().height() == start.left_out.height(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    assert [s.target for s in bench.run.series] == [10, 30, 50]
    assert bench.run.plan.note == "M-1 judges 10–50\u202fN·m: 6\u202fN·m is left out"


@pytest.mark.parametrize("options", [[], ["--pty"]])
def test_the_stand_in_is_a_process_of_its_own(options):
    child = subprocess.Popen(
        [sys.executable, "-m", "reckoner", "meter", "--speed", "5", *options], stdout=subprocess.PIPE, text=True
    )
    link = MeterLink(child.stdout.readline().strip())
    first = next(e for e in link.events() if isinstance(e, Identity))
    link.close()
    assert first.simulated
    child.terminate()
    child.wait()
    child.stdout.close()


def test_results_are_said_in_plain_words():
    tool = example_card(None).tool
    assert plain_error(tool, 60, 57.5).replace("\u202f", " ") == "Clicks 4.2 % below its setting"
    assert plain_error(tool, 60, 60.6).replace("\u202f", " ") == "Clicks 1.0 % above its setting"
    assert plain_error(tool, 60, 60.01) == "Clicks at its setting"
    assert margin(0.021, 0.04).replace("\u202f", " ") == "1.9 % to spare"
    assert margin(0.04004, 0.04).replace("\u202f", " ") == "0.004 % too much"
    assert settable(tool.kind, 120.0, tool.unit) == "120\u202fN·m"
    assert tool.mechanism is Mechanism.CLICK


def test_in_an_empty_shop_each_shelf_says_what_to_do_first(qtbot, own_window):
    window = own_window()
    go(window, "records")
    settle(qtbot, window)
    place = window.place(PlaceId.RECORDS)
    qtbot.waitUntil(lambda: "Nothing is signed yet" in place.results.empty.text() and window.idle, timeout=WAIT)
    assert not place.results.button.isVisible()
    click(place.heads.chips["labels"])
    qtbot.waitUntil(lambda: "Add one under Tools" in place.labels.found.text(), timeout=WAIT)
    click(place.labels.of.chips["meters"])
    qtbot.waitUntil(lambda: "Add one under References" in place.labels.found.text(), timeout=WAIT)
    click(place.heads.chips["trail"])
    qtbot.waitUntil(lambda: "Nothing was done yet" in place.trail.empty.text(), timeout=WAIT)
