"""The Desk with real keys and mouse: a loan and its return, a stand-in, a trip with its certificate, a review closed."""

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import Qt
from sqlalchemy import func, select

from reckoner.shop.register.cards import card
from reckoner.store.schema import Review, ReviewMark
from reckoner.store.terms import EventKind
from reckoner.ui.places import PlaceId
from reckoner.ui.widgets.puton import PutOn
from tests.support.hands import ENTER, WAIT, click, focused, go, press, settle, type_in
from tests.support.runs import tool_id


def plain(text):
    return text.replace("\u202f", " ")


@pytest.fixture
def desk(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "desk")
    settle(qtbot, window)
    return window, window.place(PlaceId.DESK)


def fill(qtbot, window, field, text, enter=False):
    field.setFocus()
    field.clear()
    type_in(window, text)
    if enter:
        press(window, ENTER)
    settle(qtbot, window)


def standing(demo, number):
    with demo.reading() as reader:
        return card(reader, tool_id(demo, number)).standing


def test_a_loan_by_scan_with_its_setting_and_its_return_with_what_happened(qtbot, desk, demo):
    window, place = desk
    shelf = place.lending
    type_in(window, "0418")  # the field of the scanner has the focus
    press(window, ENTER)
    qtbot.waitUntil(lambda: len(shelf.form.basket.tools) == 1, timeout=WAIT)
    fill(qtbot, window, shelf.scan, "0417", enter=True)
    assert shelf.button.text() == "Lend it" or shelf.button.text() == "Lend 2 tools"
    assert not shelf.button.isEnabled()  # to whom?
    fill(qtbot, window, shelf.form.to, "Tower crew")
    fill(qtbot, window, shelf.form.until, "yesterweek")
    click(shelf.button)
    assert focused(window) is shelf.form.until.line
    assert "is not a day" in shelf.form.until.hint.text()
    fill(qtbot, window, shelf.form.until, "Friday")
    fill(qtbot, window, shelf.form.setting, "250 for 240 to 260")
    assert "cannot be set to 250" in shelf.form.setting.hint.text()
    fill(qtbot, window, shelf.form.setting, "120 for 118 to 122")  # left as it is typed
    click(shelf.button)
    qtbot.waitUntil(lambda: standing(demo, "HC-0418").loan is not None, timeout=WAIT)
    settle(qtbot, window)
    assert standing(demo, "HC-0417").loan.to == "Tower crew"
    assert "4 tools are lent" in shelf.title.text()
    fill(qtbot, window, shelf.scan, "0418", enter=True)  # scanned again: it is back
    assert shelf.button.text() == "Take HC-0418 back"
    assert "set to 120" in shelf.returning.words.text().replace("\u202f", " ")
    click(shelf.returning.happened.chips[EventKind.FELL.value])
    assert "will be held" in shelf.returning.told.text()
    press(window, ENTER)
    qtbot.waitUntil(lambda: standing(demo, "HC-0418").loan is None, timeout=WAIT)
    settle(qtbot, window)
    assert standing(demo, "HC-0418").held == "fell"
    fill(qtbot, window, shelf.scan, "0418", enter=True)
    assert "HC-0418 is held: fell" in shelf.refused.text()
    assert shelf.instead.chips
    number, chip = next(iter(shelf.instead.chips.items()))
    click(chip)
    qtbot.waitUntil(lambda: len(shelf.form.basket.tools) == 1, timeout=WAIT)
    assert next(iter(shelf.form.basket.tools.values())).tool.number == number
    fill(qtbot, window, shelf.form.setting, "120 N.m for 118 N.m to 122 N.m", enter=True)
    fill(qtbot, window, shelf.scan, "0125", enter=True)  # it goes to 25 N·m
    assert "HC-0125 cannot be set to 120" in shelf.refused.text()
    assert "HC-0125" not in shelf.instead.chips
    assert shelf.instead.chips


def test_what_is_pressed_twice_is_done_once(qtbot, desk, demo):
    window, place = desk
    with demo.session() as session:
        count = session.scalar(select(func.count()).select_from(Review))
    shelf = place.reviews
    click(place.heads.chips["reviews"])
    settle(qtbot, window)
    fill(qtbot, window, shelf.tool, "0326")
    for _ in range(2):
        press(window, ENTER)
    qtbot.waitUntil(lambda: shelf.front is not None and shelf.front.tool == "HC-0326" and window.idle, timeout=WAIT)
    for _ in range(3):
        shelf.note.line.setText("torqued again")
        shelf.primary()
        shelf.primary()
        settle(qtbot, window)
    with demo.session() as session:
        assert session.scalar(select(func.count()).select_from(Review)) == count + 1
        marks = session.scalars(select(ReviewMark.line).where(ReviewMark.review_id == shelf.front.id)).all()
        assert len(marks) == len(set(marks))
    away = place.away
    click(place.heads.chips["away"])
    settle(qtbot, window)
    fill(qtbot, window, away.scan, "0418", enter=True)
    fill(qtbot, window, away.form.fee, "ninety")
    fill(qtbot, window, away.form.laboratory, "Fellgate Laboratory")
    click(away.button)
    assert focused(window) is away.form.fee.line  # where it is to be mended
    assert "not a number" in away.form.fee.hint.text()
    fill(qtbot, window, away.form.fee, "90")
    for _ in range(2):
        away.primary()
    qtbot.waitUntil(lambda: standing(demo, "HC-0418").away is not None, timeout=WAIT)
    settle(qtbot, window)
    assert focused(window) is away.scan.line  # for the next one
    assert away.refused.text() == ""


def test_a_late_loan_is_taken_back_from_today_and_one_from_the_top_line(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    press(window, Qt.Key.Key_J)
    type_in(window, "0341 back")
    matches = window.top_line.matches
    qtbot.waitUntil(lambda: matches.count() == 2 and "The Desk asks" in matches.item(1).text(), timeout=WAIT)
    press(window, ENTER)
    place = window.place(PlaceId.DESK)
    qtbot.waitUntil(lambda: place.lending.front is not None, timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: standing(demo, "HC-0341").loan is None, timeout=WAIT)
    settle(qtbot, window)
    go(window, "today")
    settle(qtbot, window)
    press(window, Qt.Key.Key_J)
    type_in(window, "lend 0341 Drive room Friday")
    qtbot.waitUntil(lambda: window.top_line.matches.isVisible() and window.top_line.matches.count() >= 2, timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: standing(demo, "HC-0341").loan is not None, timeout=WAIT)
    settle(qtbot, window)
    press(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    qtbot.waitUntil(lambda: standing(demo, "HC-0341").loan is None, timeout=WAIT)
    settle(qtbot, window)


def test_the_ranking_leads_to_the_setting_and_a_job_card_to_the_loan_of_its_tools(qtbot, desk, demo):
    window, place = desk
    shelf = place.choosing
    click(place.heads.chips["choosing"])
    settle(qtbot, window)
    fill(qtbot, window, shelf.torque, "76 to 84")
    qtbot.waitUntil(lambda: shelf.one is not None, timeout=WAIT)
    assert "narrow" in shelf.critical.on  # by itself
    shelf.cards.chips["1"].click()
    settle(qtbot, window)
    assert [plain(chip.text()) for chip in shelf.stages.chips.values()] == [
        "50 % · 40 N·m",
        "75 % · 60 N·m",
        "100 % · 80 N·m",
    ]
    assert (plain(shelf.torque.text), shelf.stages.on) == ("76 to 84 N·m", ("2",))
    shelf.stages.chips["0"].click()
    settle(qtbot, window)
    assert plain(shelf.torque.text) == "40 N·m"
    marked = next(one for one in shelf.found if one.card.tool.number == "HC-0417")  # its scale is marked every 1 N·m
    assert plain(marked.setting_words) == "37 N·m"  # with the adapter that the card has for this stage
    assert [plain(chip.text()) for chip in shelf.adapters.on.chips.values()] == ["CF-19 in line  ×"]
    fill(qtbot, window, shelf.torque, "76 to 84")
    assert (shelf.cards.on, shelf.stages.on) == ((), ())  # another torque than the card's
    number = shelf.one.card.tool.number
    click(shelf.button)
    setting = window.place(PlaceId.SETTING)
    qtbot.waitUntil(lambda: window.current is setting and setting.sheet.found is not None, timeout=WAIT)
    settle(qtbot, window)
    assert setting.sheet.found.ask.tool.number == number
    click(setting.heads.chips["cards"])
    settle(qtbot, window)
    click(setting.cards.lend_button)
    qtbot.waitUntil(lambda: bool(place.lending.form.basket.tools), timeout=WAIT)
    settle(qtbot, window)
    assert [c.tool.number for c in place.lending.form.basket.tools.values()] == ["HC-0303"]
    assert [round(w.set) for w in place.lending.form.wanted] == [36, 54, 71]
    assert place.lending.form.to.text == "Tower flange nuts"


def test_a_trip_to_a_laboratory_ends_with_its_certificate_as_a_result(qtbot, desk, demo, tmp_path):
    window, place = desk
    shelf = place.away
    click(place.heads.chips["away"])
    settle(qtbot, window)
    assert shelf.title.text() == "1 away, 1 late"
    fill(qtbot, window, shelf.scan, "0441", enter=True)
    assert shelf.button.text() == "It is back"
    click(shelf.button)
    qtbot.waitUntil(lambda: standing(demo, "HC-0441").away is None, timeout=WAIT)
    settle(qtbot, window)
    click(shelf.button)
    form = shelf.certificate
    fill(qtbot, window, form.number, "L-12")
    fill(qtbot, window, form.laboratory, "Fellgate Laboratory")
    fill(qtbot, window, form.issued, "9 Nov 2026")
    form.points.setPlainText("40 N·m; nothing; 0.6 %")
    assert "nothing" in form.understood.text()
    click(shelf.button)
    assert "is not understood" in form.fault.text()
    fill(qtbot, window, form.due, "soon")
    form.points.setPlainText("40 N·m +1.2 % 0.6 %")
    click(shelf.button)
    assert focused(window) is form.due.line
    form.due.clear()
    form.points.setPlainText("40 N·m +1.2 % 0.6 %\n108 N·m +0.8 % 0.5 %\n180 N·m +0.5 % 0.5 %")
    (tmp_path / "scan.pdf").write_bytes(b"%PDF-1.4 a scan")
    form.take_file(tmp_path / "scan.pdf")
    qtbot.waitUntil(lambda: "scan.pdf" in form.file_words.text(), timeout=WAIT)
    click(shelf.button)
    qtbot.waitUntil(lambda: standing(demo, "HC-0441").last_run.month == 11, timeout=WAIT)
    settle(qtbot, window)
    assert "due again on 9 Nov 2027" in window.foot.words


def test_a_review_is_settled_line_by_line_closed_and_saved(qtbot, desk, demo, tmp_path):
    window, place = desk
    go(window, "today")
    settle(qtbot, window)
    shelf = place.reviews
    go(window, "desk", tool=tool_id(demo, "HC-0404"), review=0)
    qtbot.waitUntil(lambda: shelf.front is not None and shelf.front.tool == "HC-0404", timeout=WAIT)
    settle(qtbot, window)
    assert not shelf.button.isEnabled()
    for left in (2, 1, 0):
        fill(qtbot, window, shelf.note, f"torqued again, {left} left", enter=True)
        qtbot.waitUntil(lambda left=left: shelf.front is not None and shelf.front.left == left, timeout=WAIT)
        settle(qtbot, window)
    assert shelf.button.text() == "Close the review"
    shelf.save(tmp_path / "review.pdf")
    qtbot.waitUntil((tmp_path / "review.pdf").exists, timeout=WAIT)
    settle(qtbot, window)
    text = " ".join("".join(p.extract_text() for p in PdfReader(tmp_path / "review.pdf").pages).split())
    assert "torqued again, 1 left" in text
    click(shelf.button)
    qtbot.waitUntil(lambda: shelf.front is None, timeout=WAIT)
    settle(qtbot, window)
    assert shelf.none.isVisible()
    fill(qtbot, window, shelf.tool, "0326", enter=True)
    qtbot.waitUntil(lambda: shelf.front is not None and shelf.front.tool == "HC-0326", timeout=WAIT)
    settle(qtbot, window)
    fill(qtbot, window, shelf.tool, "0418", enter=True)
    qtbot.waitUntil(lambda: "was not lent" in shelf.tool.hint.text(), timeout=WAIT)


def test_what_it_costs_to_keep_a_model_tested_is_drawn_from_the_owners_figures(qtbot, desk):
    window, place = desk
    click(place.heads.chips["costs"])
    settle(qtbot, window)
    shelf = place.costs
    qtbot.waitUntil(lambda: bool(shelf.found), timeout=WAIT)
    at = next(i for i, one in enumerate(shelf.found) if one.model == "Dunmorrow D-200")
    shelf.list.setCurrentIndex(shelf.list.lines.index(at))
    settle(qtbot, window)
    assert shelf.sentence.text().startswith("Test it here:")
    assert "cr" in shelf.bars.accessibleDescription()
    assert "Assumed:" in shelf.assumed.text()


def test_a_new_tool_is_lent_by_the_certificate_that_came_with_it(qtbot, desk, demo):
    """Where it is refused stands what can be done about it, as a press."""
    window, place = desk
    shelf = place.lending
    shelf.scan.setFocus()
    type_in(window, "HC-0460")
    press(window, ENTER)
    qtbot.waitUntil(lambda: shelf.ways_on.isVisible(), timeout=WAIT)
    assert shelf.refused.text().startswith("HC-0460 was never tested. It is not lent.")
    assert list(shelf.ways_on.chips) == ["Test it first", "Enter the certificate that came with it"]
    click(shelf.ways_on.chips["Enter the certificate that came with it"])
    away = place.away
    qtbot.waitUntil(lambda: away.front is not None and away.button.text() == "Enter its certificate", timeout=WAIT)
    settle(qtbot, window)
    click(away.button)
    form = away.certificate
    for field, text in ((form.number, "S-1"), (form.laboratory, "Skerrivane"), (form.issued, "20 Nov 2026")):
        field.line.setText(text)
    form.points.setPlainText("40 +1.0 % 0.8 %\n120 +0.5 % 0.8 %\n200 -0.4 % 0.8 %")
    click(away.button)
    qtbot.waitUntil(lambda: standing(demo, "HC-0460").due is not None, timeout=WAIT)
    settle(qtbot, window)
    click(place.heads.chips["lending"])
    settle(qtbot, window)
    assert not shelf.ways_on.isVisible()
    shelf.scan.setFocus()
    type_in(window, "HC-0460")
    press(window, ENTER)
    qtbot.waitUntil(lambda: [one.tool.number for one in shelf.form.basket.tools.values()] == ["HC-0460"], timeout=WAIT)


def test_an_adapter_typed_is_put_on_by_tab_and_by_enter_twice(qtbot, desk):
    window, place = desk
    click(place.heads.chips["choosing"])
    settle(qtbot, window)
    put_on = next(one for one in place.findChildren(PutOn) if one.isVisible())
    fill(qtbot, window, place.choosing.torque, "120 N.m")  # so that the page's button would go on to Setting
    fill(qtbot, window, put_on.adapter, "45 mm")
    press(window, Qt.Key.Key_Tab)
    settle(qtbot, window)
    assert [one.length for one in put_on.fitted] == [pytest.approx(0.045)]
    fill(qtbot, window, put_on.adapter, "30 mm at 90", enter=True)
    shown = window.current, place.heads.one
    assert place.choosing.button.isEnabled()
    press(window, ENTER)  # pressed twice: it is no press of the page's button
    settle(qtbot, window)
    assert [one.length for one in put_on.fitted] == [pytest.approx(0.045), pytest.approx(0.030)]
    assert (window.current, place.heads.one) == shown
