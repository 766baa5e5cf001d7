"""The look: contrast, one home for colours, keys that mean one thing, and each shared widget in every state."""

import locale
import re
from collections import Counter
from datetime import date
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeySequence
from PyQt6.QtWidgets import QAbstractButton, QLineEdit, QWidget

import reckoner.ui
from reckoner.core.decision.states import State
from reckoner.core.quantities.units import N_M
from reckoner.shop.register.lists import PAGE, find
from reckoner.ui.actions import ACTIONS
from reckoner.ui.frame import application
from reckoner.ui.gallery import Gallery, example_card
from reckoner.ui.layout import column
from reckoner.ui.tokens import DARK, LIGHT
from reckoner.ui.tools.tools_list import ToolsModel
from reckoner.ui.widgets.entry import EntryField, numbers_of, torque_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.tag import Tag, tag_outline
from reckoner.ui.widgets.text import tip
from reckoner.ui.window.keys import KeySheet
from tests.support.hands import WAIT, focused, go, settle

TODAY = date(2026, 11, 24)


def luminance(color):
    parts = [int(color[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [p / 12.92 if p <= 0.04045 else ((p + 0.055) / 1.055) ** 2.4 for p in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


def contrast(one, other):
    high, low = sorted((luminance(one), luminance(other)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("tokens", [LIGHT, DARK], ids=["light", "dark"])
def test_words_have_contrast_and_readings_more(tokens):
    for words in ("ink", "quiet", "accent", "inside", "near", "outside"):
        for ground in ("surface", "ground"):
            assert contrast(getattr(tokens, words), getattr(tokens, ground)) >= 4.5, (words, ground)
    assert contrast(tokens.frame_quiet, tokens.frame) >= 4.5
    assert contrast(tokens.on_accent, tokens.accent) >= 4.5
    assert contrast(tokens.ink, tokens.near_wash) >= 7
    assert contrast(tokens.ink, tokens.surface) >= 7


def test_colours_and_style_sheets_live_in_the_theme_alone():
    for path in Path(reckoner.ui.__file__).parent.rglob("*.py"):
        if path.name in ("theme.py", "tokens.py"):
            continue
        found = re.findall(r"#[0-9A-Fa-f]{6}\b|QColor\(|GlobalColor|setStyleSheet", path.read_text())
        assert found == [], path


def test_no_key_means_two_things():
    keys = Counter(QKeySequence(key).toString() for spec in ACTIONS for key in spec.keys)
    assert "" not in keys
    assert max(keys.values()) == 1


def test_the_keys_do_what_the_sheet_says(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    for key, place in ((Qt.Key.Key_3, "tools"), (Qt.Key.Key_2, "bench"), (Qt.Key.Key_1, "today")):
        qtbot.keyClick(window, key, Qt.KeyboardModifier.AltModifier)
        settle(qtbot, window)
        assert window.current is window.place(place)
        assert window.rail.buttons[place].isChecked()
    qtbot.keyClick(window, Qt.Key.Key_F1)
    assert window.findChild(KeySheet).isVisible()
    qtbot.keyClick(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    assert window.around.theme.dark
    qtbot.keyClick(window, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    qtbot.keyClick(window, Qt.Key.Key_Slash)
    assert focused(window) is window.top_line
    qtbot.keyClicks(window.top_line, "nothing like it")
    qtbot.keyClick(window.top_line, Qt.Key.Key_Return)
    qtbot.waitUntil(lambda: window.foot.words == "No tool or place is called “nothing like it”.", timeout=WAIT)


def test_everything_a_person_can_act_on_has_a_name(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "tools", tool=34)
    settle(qtbot, window)
    go(window, "bench", tool=34)
    settle(qtbot, window)
    acted = [w for w in window.findChildren(QAbstractButton) + window.findChildren(QLineEdit) if w.isVisible()]
    assert len(acted) > 5
    assert [w for w in acted if not (w.accessibleName() or w.text())] == []


def test_the_gallery_paints_every_state_in_both_themes(theme):
    light = Gallery(theme).grab().toImage()
    theme.set_dark(True)
    dark = Gallery(theme).grab().toImage()
    theme.set_dark(False)
    assert light.size() == dark.size()
    assert light.pixelColor(2, 2).name() == LIGHT.ground.lower()
    assert dark.pixelColor(2, 2).name() == DARK.ground.lower()


def test_the_fence_mark_differs_in_shape_for_every_state_without_colour(theme):
    seen = set()
    for state in (None, *State):
        image = FenceMark(theme, state, 16).grab().toImage().convertToFormat(image_format())
        seen.add(bytes(image.constBits().asstring(image.sizeInBytes())))
    assert len(seen) == len(State) + 1


def image_format():
    from PyQt6.QtGui import QImage

    return QImage.Format.Format_Grayscale8


def test_a_held_tag_has_another_shape():
    from PyQt6.QtCore import QRectF

    box = QRectF(0, 0, 256, 80)
    assert tag_outline(box, held=True) != tag_outline(box, held=False)
    assert example_card(State.INSIDE, held="fell").due_words(TODAY) == "held"
    assert example_card(State.INSIDE, due=date(2026, 11, 18)).due_words(TODAY) == "overdue 6 d"
    assert example_card(None).due_words(TODAY) == "new"


def test_the_list_of_tools_is_a_sound_model(qtmodeltester, demo):
    model = ToolsModel(TODAY)
    with demo.reading() as reader:
        model.show(find(reader, "", TODAY))
    qtmodeltester.check(model)
    assert model.data(model.index(0, 0)).startswith("HC-0113, preset wrench")


def test_the_filter_narrows_the_list_and_the_arrow_goes_into_it(qtbot, open_window, demo_folder):
    window = open_window(demo_folder)
    go(window, "tools")
    settle(qtbot, window)
    tools = window.current
    qtbot.keyClicks(tools.filter, "held")
    settle(qtbot, window)
    assert tools.list.tools.rowCount() == 2
    assert tools.sheet.number.text() == "HC-0404"
    tools.filter.setText("wrench")
    settle(qtbot, window)
    assert tools.list.tools.rowCount() > PAGE  # counted once the first page stood
    tools.filter.setText("zzz")
    settle(qtbot, window)
    assert tools.none.text() == "No tool matches. Clear the filter to see all."


def test_a_field_shows_what_it_understood_and_what_not_while_typing(qtbot, theme):
    field = EntryField(theme, "Torque", torque_reader(N_M))
    qtbot.addWidget(field)
    qtbot.keyClicks(field.line, "1 lbf.ft")
    assert field.hint.text() == "understood: 1.3558\u202fN·m  (1\u202flbf·ft)"
    field.line.setText("1,234")
    assert "can be read two ways" in field.hint.text()
    with qtbot.assertNotEmitted(field.given):
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
    assert field.text == "1,234"
    field.line.setText("12")
    with qtbot.waitSignal(field.given) as given:
        qtbot.keyClick(field.line, Qt.Key.Key_Return)
    assert given.args == [12.0]


def test_the_first_of_several_fields_that_is_not_understood_says_so_and_is_gone_to(qtbot, theme):
    fields = [EntryField(theme, f"Torque {i}", torque_reader(N_M)) for i in range(3)]
    held = QWidget()
    held.setLayout(column(*fields))
    qtbot.addWidget(held)
    held.show()
    qtbot.waitExposed(held)
    for field, text in zip(fields, ("12", "twelve", ""), strict=True):
        field.line.setText(text)
    assert numbers_of(*fields) is None
    qtbot.waitUntil(fields[1].line.hasFocus)
    assert "twelve" in fields[1].hint.text()
    assert fields[2].hint.text().strip() == ""  # one thing at a time
    assert numbers_of(fields[0]) == (12.0,)


def test_what_people_typed_is_shown_as_they_typed_it(theme):
    from dataclasses import replace

    card = example_card(State.INSIDE)
    typed = replace(card, tool=replace(card.tool, number="<img src=/etc/hosts>"))
    shown = Tag(theme, typed, date(2026, 11, 24)).toolTip()
    assert "<img" not in shown
    assert "&lt;img src=/etc/hosts&gt;" in shown
    assert tip("5 & 7") == "5 & 7"


def test_months_are_named_in_the_language_of_the_window():
    """Qt takes the user's locale for the whole program; with a German one the dates would be half German."""
    locale.setlocale(locale.LC_TIME, "C.UTF-8")
    application()
    assert locale.setlocale(locale.LC_TIME) == "C"
    assert locale.setlocale(locale.LC_NUMERIC) == "C"
