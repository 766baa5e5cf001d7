"""The Setting place with real keys and mouse: a setting as one types, the drawing dragged, a job card from end to end."""

import math
from dataclasses import fields, replace

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtTest import QTest

from reckoner.core.tightening.jobcard import StageTool
from reckoner.core.tightening.jobs import EntryKind
from reckoner.core.tightening.setting import BandAim
from reckoner.shop.runs.records import Step
from reckoner.shop.using.works import read_work
from reckoner.store.terms import RunKind
from reckoner.ui.drawings.levershape import LeverPart
from reckoner.ui.places import PlaceId
from reckoner.ui.setting.cardform import CardForm
from tests.shop.using.test_working import CARD, EVERYTHING
from tests.support.hands import ENTER, WAIT, click, focused, go, look, press, pull, settle, type_in


@pytest.fixture
def setting(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "setting")
    settle(qtbot, window)
    return window, window.place(PlaceId.SETTING)


def fill(qtbot, window, field, text):
    field.setFocus()
    field.clear()
    type_in(window, text)
    settle(qtbot, window)


def plain(text):
    return text.replace("\u202f", " ")


def test_what_is_typed_is_answered_as_one_sentence_and_the_drawing_turns_the_adapter(qtbot, setting):
    window, place = setting
    sheet, asked = place.sheet, place.sheet.asked
    type_in(window, "76 to 84")  # the first field has the focus
    fill(qtbot, window, asked.tool, "0417")
    qtbot.waitUntil(lambda: asked.chosen is not None, timeout=WAIT)
    fill(qtbot, window, asked.adapters.adapter, "45 mm")
    press(window, ENTER)
    assert plain(sheet.picture.sentence.text()).startswith(
        "Set 73 N·m on HC-0417 with the 45 mm adapter in line: the joint gets"
    )
    assert [row.accessibleName().split(":")[0].split(",")[0] for row in sheet.ways.rows] == [
        "Compute it", "Turn it square", "Ignore it",
    ]  # fmt: skip
    drawing = sheet.picture.drawing
    at = drawing.geometry_of.place_of(LeverPart.ADAPTER, 0).toPoint()
    up = drawing.geometry_of.joints()[0].toPoint() - QPoint(0, 60)
    QTest.mousePress(drawing, Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseMove(drawing, up)
    QTest.mouseRelease(drawing, Qt.MouseButton.LeftButton, pos=up)
    assert asked.ask.fitted[0].angle_rad == pytest.approx(math.pi / 2, abs=0.02)
    assert "square" in sheet.picture.sentence.text()
    drawing.setFocus()
    press(window, Qt.Key.Key_Right)
    assert math.degrees(asked.ask.fitted[0].angle_rad) == pytest.approx(91)
    click(sheet.picture.unfold)
    assert "E = Σ e·cos φ = 45·cos 91°" in sheet.picture.formulas.text()
    asked.aim.chips[BandAim.LOW.name].click()
    assert sheet.found.ask.wanted == 76
    asked.adapters.on.chips["0"].click()
    assert asked.ask.fitted == ()


def test_where_nothing_was_measured_no_card_is_offered_but_the_test_that_would_answer(qtbot, setting):
    window, place = setting
    sheet, asked = place.sheet, place.sheet.asked
    type_in(window, "100 to 110")
    fill(qtbot, window, asked.tool, "0460")
    qtbot.waitUntil(lambda: asked.chosen is not None, timeout=WAIT)
    assert plain(sheet.picture.sentence.text()) == "Nobody knows what HC-0460 gives at 105 N·m: not measured there."
    assert not sheet.picture.card_button.isVisible()
    click(sheet.picture.test_button)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    plan = bench.panels.start.form.planned()
    assert (plan.kind, plan.points, plan.readings) == (RunKind.CHECK, (105.0,), 3)


def test_a_held_tool_shows_no_setting_and_the_ranking_counts_what_is_on_the_tool(qtbot, setting):
    window, place = setting
    sheet, asked = place.sheet, place.sheet.asked
    type_in(window, "76 to 84")
    fill(qtbot, window, asked.tool, "0404")
    qtbot.waitUntil(lambda: asked.chosen is not None, timeout=WAIT)
    assert "while it is held" in sheet.picture.sentence.text()
    assert sheet.found is None
    fill(qtbot, window, asked.tool, "")
    fill(qtbot, window, asked.lever, "400 mm")
    fill(qtbot, window, asked.adapters.adapter, "45 mm")
    press(window, ENTER)
    click(asked.suits_button)
    desk = window.place(PlaceId.DESK)
    qtbot.waitUntil(lambda: window.current is desk and desk.choosing.one is not None, timeout=WAIT)
    settle(qtbot, window)
    assert [one.words for one in desk.choosing.adapters.fitted] == ["45\u202fmm adapter in line"]
    best = desk.choosing.one
    click(desk.choosing.button)
    qtbot.waitUntil(lambda: window.current is place and sheet.found is not None, timeout=WAIT)
    settle(qtbot, window)
    assert (asked.chosen.tool.number, sheet.found.setting) == (best.card.tool.number, best.setting)


def test_what_cannot_be_is_said_at_its_field_and_mended_there(qtbot, setting):
    window, place = setting
    asked, picture = place.sheet.asked, place.sheet.picture
    type_in(window, "84 to 76")
    assert "upside down" in asked.torque.hint.text()
    fill(qtbot, window, asked.torque, "80")
    fill(qtbot, window, asked.tool, "no such tool")
    qtbot.waitUntil(lambda: "No tool is called" in asked.tool.hint.text(), timeout=WAIT)
    fill(qtbot, window, asked.tool, "")
    fill(qtbot, window, asked.adapters.adapter, "45 mm")
    press(window, ENTER)
    assert "measure the tool" in asked.lever.hint.text()
    fill(qtbot, window, asked.lever, "30 mm")
    assert "as long as the wrench" in asked.adapters.adapter.hint.text()
    fill(qtbot, window, asked.lever, "320 mm")
    assert (
        plain(picture.sentence.text())
        == "Set 70.1 N·m with the 45 mm adapter in line for 80 N·m, on a tool that reads true."
    )
    assert "plain spanner" in picture.spanner.text()
    fill(qtbot, window, asked.hand, "500 mm")
    assert "beyond the handle" in asked.hand.hint.text()
    fill(qtbot, window, place.sheet.converting.typed, "59 lbf ft")
    assert plain(place.sheet.converting.told.text()).startswith("59 lbf·ft = 79.993 N·m")


def test_a_held_tool_is_set_only_once_its_owner_allows_it_with_correction(qtbot, setting, tmp_path):
    window, place = setting
    sheet = place.sheet
    type_in(window, "100 N.m")
    fill(qtbot, window, sheet.asked.tool, "HC-0404")
    qtbot.waitUntil(lambda: not sheet.correcting.isHidden(), timeout=WAIT)
    assert sheet.picture.unfit.text().startswith("HC-0404 is held")
    fill(qtbot, window, sheet.correcting.until, "in 2 weeks")
    click(sheet.correcting.button)
    qtbot.waitUntil(lambda: "Say why" in sheet.correcting.fault.text(), timeout=WAIT)
    fill(qtbot, window, sheet.correcting.why, "no other until then")
    click(sheet.correcting.button)
    qtbot.waitUntil(lambda: sheet.correcting.isHidden() and sheet.picture.unfit.text() == "", timeout=WAIT)
    settle(qtbot, window)
    assert "only with correction" in sheet.asked.tool_words.text()
    assert plain(sheet.picture.sentence.text()).startswith("Set 106 N·m")  # 6 % low there
    assert sheet.asked.by.isHidden()
    sheet.save_card(tmp_path / "card.pdf")
    qtbot.waitUntil((tmp_path / "card.pdf").exists, timeout=WAIT)
    settle(qtbot, window)
    page = PdfReader(tmp_path / "card.pdf").pages[0]
    assert "Set 106" in plain(page.extract_text()).replace("\n", " ")
    fill(qtbot, window, sheet.asked.torque, "210 N.m")
    assert sheet.picture.card_button.isHidden()


def test_a_whole_job_card_by_keys_made_begun_worked_struck_and_signed(qtbot, setting, demo, tmp_path):
    window, place = setting
    cards = place.cards
    click(place.heads.chips["cards"])
    settle(qtbot, window)
    click(cards.new_button)
    settle(qtbot, window)
    form = cards.form
    assert form.number.text == "JC-5"
    for field, text in (
        (form.title, "flange nuts"), (form.fasteners, "1"), (form.torque, "76 to 84 N.m"), (form.stages, "50 %, 100 %"),
        (form.tool, "1: 0303, 2: 0418"),
    ):  # fmt: skip
        fill(qtbot, window, field, text)
    assert "no pattern" in form.fasteners.hint.text()
    assert not cards.button.isEnabled()
    for text, stands in (("A, B, C", "list"), ("2 x 2", "rows")):  # what is typed says how they stand
        form.fasteners.clear()
        form.fasteners.setFocus()
        type_in(window, text)
        assert (form.layout_.one, form.fasteners.hint.text()[:10]) == (stands, "understood")
    fill(qtbot, window, form.fasteners, "2 x 2")
    fill(qtbot, window, form.stages, "100 %, 50 %")
    assert "higher than the one before" in form.stages.hint.text()
    fill(qtbot, window, form.stages, "50 %, 100 %")
    assert "HC-0303 set to 41" in plain(cards.stages.text())
    click(cards.button)
    qtbot.waitUntil(lambda: cards.front is not None and cards.front.number == "JC-5", timeout=WAIT)
    settle(qtbot, window)
    cards.files.write(tmp_path / "card.json")
    cards.files.save_pdf(tmp_path / "card.pdf")
    qtbot.waitUntil((tmp_path / "card.pdf").exists, timeout=WAIT)
    settle(qtbot, window)
    assert "flange nuts" in PdfReader(tmp_path / "card.pdf").pages[0].extract_text()
    assert cards.button.text() == "Begin the job"
    click(cards.button)
    work = place.work
    qtbot.waitUntil(lambda: work.state is not None and work.isVisible(), timeout=WAIT)
    settle(qtbot, window)
    for done in range(1, 4):
        press(window, ENTER)
        qtbot.waitUntil(lambda done=done: work.state.stand.done == done, timeout=WAIT)
        settle(qtbot, window)
    press(window, Qt.Key.Key_Backspace)
    qtbot.waitUntil(lambda: work.state.stand.done == 2, timeout=WAIT)
    click(work.pattern, work.pattern.place_of(4).toPoint())  # this one first
    assert work.at.fastener == 4
    work.button.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: work.state.stand.done == 3, timeout=WAIT)
    work_id = work.state.id
    go(window, "today")
    go(window, "setting", work=work_id)
    settle(qtbot, window)
    done, kept = work.state.stand.done, len(work.state.entries)
    fill(qtbot, window, work.measure, "86 N.m")
    click(work.button)  # what was typed is taken with it, and never thrown away
    qtbot.waitUntil(lambda: bool(work.state.stand.over), timeout=WAIT)
    assert [e.entry.kind for e in work.state.entries[kept:]] == [EntryKind.DONE, EntryKind.MEASURED]
    assert work.state.stand.done == done + 1
    settle(qtbot, window)
    assert not work.button.isVisible()
    assert focused(window) is work.question
    for _ in range(3):  # the rhythm of Enter strikes nothing, and answers nothing
        press(window, ENTER)
        settle(qtbot, window)
    assert (len(work.state.entries), len(work.state.stand.asked)) == (kept + 2, 1)
    assert "86 N·m" in plain(work.question.words.text())
    press(window, Qt.Key.Key_Tab)
    assert focused(window).text() == "Slackened: do it again"
    press(window, ENTER)
    qtbot.waitUntil(lambda: not work.state.stand.over, timeout=WAIT)
    while work.state.stand.next is not None:
        before = work.state.stand.done
        settle(qtbot, window)
        look(window)
        work.button.setFocus()
        press(window, ENTER)
        qtbot.waitUntil(lambda before=before: work.state.stand.done > before, timeout=WAIT)
    settle(qtbot, window)
    assert work.button.text() == "Sign the job"
    press(window, ENTER)
    qtbot.waitUntil(lambda: bool(work.state.closed), timeout=WAIT)
    with demo.reading() as reader:
        kept = read_work(reader, work_id)
    assert kept.signed
    assert [e.entry.kind for e in kept.entries].count(EntryKind.SLACKENED) == 1
    click(work.back_button)
    settle(qtbot, window)
    cards.files.read(tmp_path / "card.json")
    qtbot.waitUntil(lambda: form.number.text == "JC-6", timeout=WAIT)
    settle(qtbot, window)


MIXED = replace(
    CARD,
    tools=(StageTool(0, "HC-0303", ("45 mm", "CF-19")), StageTool(1, "HC-0418", ("160 mm at 90°",))),
)


@pytest.mark.parametrize("card", [CARD, EVERYTHING, MIXED], ids=["plain", "everything", "adapters a stage"])
def test_a_card_that_is_only_looked_at_stays_as_it_is(theme, card):
    form = CardForm(theme)
    form.show_card(card)
    shown = form.value()
    assert replace(shown, plan=card.plan) == card
    for part in fields(card.plan):
        kept, was = getattr(shown.plan, part.name), getattr(card.plan, part.name)
        assert kept == was or kept == pytest.approx(was), part.name


def test_what_a_tool_has_stored_is_taken_as_measured(qtbot, setting, tmp_path):
    window, place = setting
    click(place.heads.chips["cards"])
    settle(qtbot, window)
    click(place.cards.which.chips["works"])
    qtbot.waitUntil(lambda: bool(place.cards.works), timeout=WAIT)
    settle(qtbot, window)
    place.cards.primary()
    work = place.work
    qtbot.waitUntil(lambda: work.state is not None and window.idle, timeout=WAIT)
    left = work.state.stand.of - work.state.stand.done
    (tmp_path / "stored.csv").write_text("No;Peak [N.m]\n1;40.2\n2;39.8\n", encoding="utf-8")
    work.stored.read(tmp_path / "stored.csv")
    qtbot.waitUntil(work.stored.isVisible, timeout=WAIT)
    peak = next(key for key, chip in work.stored.columns.chips.items() if chip.text().startswith("Peak"))
    click(work.stored.columns.chips[peak])
    assert "40.2" in work.stored.told.text()
    assert "read in N·m" in work.stored.told.text()
    click(work.stored.take_button)
    qtbot.waitUntil(lambda: work.state.stand.of - work.state.stand.done == left - 2 and window.idle, timeout=WAIT)
    assert [e.value for e in work.state.stand.counted if e.kind is EntryKind.MEASURED] == [40.2, 39.8]
    (tmp_path / "words.csv").write_text("a;b\nx;y\n", encoding="utf-8")
    work.stored.read(tmp_path / "words.csv")
    qtbot.waitUntil(lambda: "no column of it holds torques" in work.fault.text(), timeout=WAIT)


def test_a_press_that_comes_before_the_next_fastener_stands_does_nothing(qtbot, setting):
    window, place = setting
    click(place.heads.chips["cards"])
    settle(qtbot, window)
    click(place.cards.button)  # the first card's job
    work = place.work
    qtbot.waitUntil(lambda: work.state is not None and work.isVisible(), timeout=WAIT)
    settle(qtbot, window)
    look(window)
    for _ in range(5):
        QTest.keyClick(focused(window), ENTER)
    settle(qtbot, window)
    assert work.state.stand.done == 1


def test_a_card_offers_the_test_of_what_nobody_measured_and_has_its_answer_when_one_comes_back(qtbot, setting):
    window, place = setting
    cards = place.cards
    click(place.heads.chips["cards"])
    settle(qtbot, window)
    click(cards.new_button)
    settle(qtbot, window)
    form = cards.form
    for field, text in ((form.fasteners, "4"), (form.torque, "100 to 110"), (form.angle, "90°"), (form.tool, "0460")):
        fill(qtbot, window, field, text)
    qtbot.waitUntil(lambda: bool(cards.tests), timeout=WAIT)
    settle(qtbot, window)
    assert "nobody measured it there" in cards.snug.text()
    (test,) = cards.tests
    assert plain(test.text()) == "HC-0460: Measure it there: three pulls at 105 N·m"
    click(test)
    bench = window.place(PlaceId.BENCH)
    for words in ("Put it on the bench", "Nothing wrong"):
        qtbot.waitUntil(lambda w=words: bench.button.text() == w, timeout=WAIT)
        settle(qtbot, window)
        press(window, ENTER)
    qtbot.waitUntil(lambda: bench.button.text().startswith("Use "), timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)
    while bench.run.step is not Step.DECIDE:
        before = bench.run.stamp
        if bench.run.step is Step.EXERCISE or bench.run.current is not None:
            pull(qtbot, window, bench)
        qtbot.waitUntil(lambda b=before: bench.run.stamp != b or bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    settle(qtbot, window)
    assert bench.button.text() == "Back to JC-5"
    press(window, ENTER)
    settle(qtbot, window)
    assert window.current is place
    assert form.tool.text == "0460"
    qtbot.waitUntil(lambda: cards.tests == (), timeout=WAIT)
    assert "makes a quarter of the clamp" in cards.snug.text()
    go(window, "bench", tool=bench.run.tool.id)
    settle(qtbot, window)
    assert "Back to" not in bench.button.text()


def test_what_one_has_is_answered_beside_the_setting_and_begins_with_the_tool_that_is_named(qtbot, setting):
    window, place = setting
    sheet = place.sheet
    fill(qtbot, window, sheet.asked.tool, "0417")
    qtbot.waitUntil(lambda: sheet.asked.chosen is not None, timeout=WAIT)
    have = sheet.converting
    fill(qtbot, window, have.typed, "59 lbf ft")
    assert not have.begin.isVisible()
    fill(qtbot, window, have.typed, "20 kg at 30 cm")
    qtbot.waitUntil(lambda: have.begin.isVisible(), timeout=WAIT)
    assert "its own weight in it" in have.told.text()
    assert have.begin.text() == "Begin with it"
    settle(qtbot, window)
    press(window, ENTER)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: window.current is bench and bench.run is not None, timeout=WAIT)
    assert (bench.run.tool.number, bench.run.kind) == ("HC-0417", RunKind.CHECK)
