"""What forms owe the hand: Tab in the order of reading, digits beside the usual values, a refusal where it belongs."""

from datetime import date

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication, QScrollArea, QWidget

from reckoner.core.errors import InputRefused
from reckoner.shop.people.authorship import FieldRefused
from reckoner.shop.register.completing import ModelFacts
from reckoner.ui.layout import column, row, scrolling
from reckoner.ui.register.newmeter import CERTIFIED, NewMeter
from reckoner.ui.register.newtools import NewToolsForm
from reckoner.ui.widgets.entry import day_reader, plain_reader, words_reader
from reckoner.ui.widgets.form import Form, FormFoot
from tests.support.hands import WAIT

TODAY = date(2026, 11, 24)


class Asked(Form[tuple[str, float]]):
    """Two fields side by side, made in the other order, a choice between, and one far below."""

    def __init__(self, theme):
        super().__init__(theme)
        self.right = self.field("right", "Right", plain_reader(0, 10, "mm"))
        self.left = self.field("left", "Left", words_reader)
        self.kind = self.choice("kind", "Kind", [("a", "one"), ("b", "another")], ["a"])
        self.day = self.field("day of it", "Day", day_reader)
        apart = QWidget()
        apart.setFixedHeight(2000)
        self.setLayout(column(row(self.left, self.right), self.kind, apart, self.day))
        self.shown(lambda: self.kind.one == "a", self.right)

    def value(self):
        self.day.value_or_none()
        return self.left.text, self.right.value()


@pytest.fixture
def form(qtbot, theme):
    made = Asked(theme)
    holder = QWidget()
    holder.resize(640, 480)
    holder.setLayout(column(scrolling(made), FormFoot(theme, "Keep", lambda: None)))
    qtbot.addWidget(holder)
    holder.show()
    holder.activateWindow()
    qtbot.waitUntil(holder.isActiveWindow, timeout=WAIT)
    made.holder = holder
    return made


def tab(form, *, back=False):
    key = Qt.Key.Key_Backtab if back else Qt.Key.Key_Tab
    QTest.keyClick(
        QApplication.focusWidget(), key, Qt.KeyboardModifier.ShiftModifier if back else Qt.KeyboardModifier(0)
    )
    return QApplication.focusWidget()


def test_tab_goes_as_one_reads_past_what_is_not_shown_and_scrolls(form):
    form.left.setFocus()
    chips = list(form.kind.chips.values())
    assert [tab(form) for _ in range(4)] == [form.right.line, *chips, form.day.line]
    assert not form.day.visibleRegion().isEmpty()
    assert tab(form, back=True) is chips[1]
    form.left.setFocus()
    form.kind.choose("b")
    form.look()
    assert tab(form) is chips[0]


def test_what_cannot_be_is_said_at_its_field_which_comes_into_sight_with_the_focus(form):
    said = []
    form.refused.connect(said.append)
    form.right.line.setText("11")
    assert form.given() is None
    assert QApplication.focusWidget() is form.right.line
    form.right.line.setText("5")
    form.day.line.setText("soon")
    assert form.given() is None
    assert QApplication.focusWidget() is form.day.line
    assert not form.day.visibleRegion().isEmpty()
    form.day.clear()
    assert form.given() == ("", 5.0)
    form.refuse(FieldRefused("left", "there is one of that name."))
    assert (form.left.hint.text(), said) == ("There is one of that name.", [])
    form.kind.choose("b")
    form.look()
    form.refuse(InputRefused("right", None, "not shown"))
    assert said == ["Not shown"]


def test_it_begins_anew_with_nothing_of_the_last_one(form):
    form.left.line.setText("words")
    form.right.line.setText("5")
    told = []
    form.changed.connect(lambda: told.append(form.left.text))
    form.begin()
    assert (form.left.text, form.right.text, told) == ("", "", [""])
    assert QApplication.focusWidget() is form.right.line


def test_a_message_moves_neither_the_button_nor_what_stands_above(form):
    foot = form.holder.findChild(FormFoot)
    scroll = form.holder.findChild(QScrollArea)
    before = foot.button.geometry(), scroll.geometry()
    for say in (foot.lacks, foot.refuse):
        say(
            "A sentence that is long enough to need a second line beside a button as wide as this one is, in its window."
        )
        QApplication.processEvents()
        assert (foot.button.geometry(), scroll.geometry()) == before


def test_a_unit_that_is_typed_is_the_meters_and_what_means_the_same_is_shown_as_chosen(theme):
    form = NewMeter(theme, TODAY)
    form.range.line.setText("15 to 150 lbf.ft")
    assert form.units.one == "lbf.ft"
    assert form.range.usual.one == "15–150\u202flbf·ft"
    assert form.steps.one == "0.1"
    form.steps.choose("1.0")
    form.range.line.setText("20 to 150")
    assert (form.range.usual.one, form.range.value()[2].name, form.steps.one) == ("", "lbf.ft", "1.0")
    form.proofs.choose(CERTIFIED)
    form.uncertainty.line.setText("0,5")
    form.due.line.setText("2027-02-24")
    assert (form.uncertainty.usual.one, form.due.usual.one) == ("0.5 %", "24 Feb 2027")
    given = form.given()
    assert given.certificate.points[0][2] == 0.005
    form.units.chips["N.m"].click()
    assert form.why_not() == "Choose its range, or type it."


def test_narrowing_the_models_keeps_the_chosen_one_and_chooses_the_only_one(theme):
    form = NewToolsForm(theme)
    form.begin_with("T-9", None, None)
    form.offer(
        tuple(ModelFacts(i, *name.split(), "click") for i, name in enumerate(("Dun D-100", "Dun D-200", "Otter DL-4")))
    )
    form.group.button(1).setChecked(True)
    form.filter.line.setText("dun")
    assert form.value().model_id == 1
    form.filter.line.setText("otter")
    assert form.value().model_id == 2
