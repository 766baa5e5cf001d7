"""Sitting down by a passphrase, where the shop asks for it: at the opening, for another person, after a time."""

import getpass

import pytest
from click.testing import CliRunner
from PyQt6.QtCore import Qt
from PyQt6.QtTest import QTest

from reckoner.cli.main import make_command
from reckoner.shop.people import seals
from reckoner.shop.people.authorship import FieldRefused
from reckoner.shop.records.trail import trail
from reckoner.shop.register import editing
from reckoner.shop.register.fields import fields_of
from reckoner.store.reader import reader_of
from reckoner.store.terms import RegisterKind
from reckoner.ui.places import PlaceId
from tests.support.hands import WAIT, click, go, press, settle, taken
from tests.support.runs import prepared, tool_id

WORDS = "four wrenches and a rope"


@pytest.fixture
def asking(demo, act):
    """The shop asks at sitting down, and after ten minutes without a hand; R. K. has a passphrase, nobody else."""
    fields = {field.name: field for field in fields_of(RegisterKind.SHOP)}
    with demo.session() as session:
        shop = editing.the_shop(session)
    with pytest.raises(FieldRefused, match="sets a passphrase first"), demo.session() as session:
        editing.change(session, RegisterKind.SHOP, shop, fields["asks_at_sitting"], True, act)
    with demo.session() as session:
        seals.set_passphrase(session, act.person_id, WORDS, act)
        editing.change(session, RegisterKind.SHOP, shop, fields["asks_at_sitting"], True, act)
        editing.change(session, RegisterKind.SHOP, shop, fields["lock_minutes"], 10, act)


def sit(qtbot, window, words):
    QTest.keyClicks(window.seat.sitting.field.line, words)
    QTest.keyClick(window.seat.sitting.field.line, Qt.Key.Key_Return)
    settle(qtbot, window)


def test_nobody_sits_before_the_passphrase_and_then_no_key_reaches_below(qtbot, open_window, demo_folder, asking):
    window = open_window(demo_folder)
    sitting = window.seat.sitting
    assert sitting.isVisible()
    assert window.around.person is None
    press(window, Qt.Key.Key_3, Qt.KeyboardModifier.AltModifier)
    settle(qtbot, window)
    assert window.current is window.place(PlaceId.TODAY)
    click(next(chip for chip in sitting.who.chips.values() if chip.text().startswith("M. T.")))
    sit(qtbot, window, "whatever it may be")
    assert "M. T. has no passphrase yet" in sitting.field.hint.text()
    click(next(chip for chip in sitting.who.chips.values() if chip.text().startswith("R. K.")))
    sit(qtbot, window, "something else")
    assert "not the passphrase of R. K." in sitting.field.hint.text()
    assert window.around.person is None
    sit(qtbot, window, WORDS)
    assert (window.around.person.initials, sitting.isVisible()) == ("R. K.", False)
    press(window, Qt.Key.Key_3, Qt.KeyboardModifier.AltModifier)
    qtbot.waitUntil(lambda: window.current is window.place(PlaceId.TOOLS), timeout=WAIT)


def test_it_locks_after_a_time_without_a_hand_and_a_pull_is_not_kept_meanwhile(
    qtbot, open_window, demo_folder, demo, act, asking
):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
    window = open_window(demo_folder)
    click(next(chip for chip in window.seat.sitting.who.chips.values() if chip.text().startswith("R. K.")))
    sit(qtbot, window, WORDS)
    go(window, "bench", tool=run.tool.id)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    window.seat.sitting.seconds = lambda: 10_000.0
    press(window, Qt.Key.Key_Shift)  # a hand
    window.seat.sitting.seconds = lambda: 10_599.0
    window.seat.sitting.look()
    assert window.around.seated
    window.seat.sitting.seconds = lambda: 10_601.0
    window.seat.sitting.look()
    assert not window.around.seated
    assert window.seat.sitting.isVisible()
    before = taken(bench.run)
    bench.presenter.taker.valued(40.1)
    settle(qtbot, window)
    assert taken(bench.run) == before
    assert "nothing was kept" in window.seat.sitting.told.text()
    assert not window.seat.sitting.leave_button.isVisible()
    sit(qtbot, window, WORDS)
    assert window.around.seated
    assert window.current is bench


def test_where_nobody_knows_theirs_the_command_line_lets_everybody_sit_again(
    qtbot, open_window, demo_folder, demo, asking
):
    window = open_window(demo_folder)
    click(window.seat.sitting.forgotten_button)
    assert "reckoner unlock" in window.seat.sitting.told.text()
    told = CliRunner().invoke(make_command(lambda _o: 0), ["unlock", "--data", str(demo_folder), "--as", "RK"])
    assert told.exit_code == 0, told.output
    qtbot.waitUntil(lambda: window.around.person is not None, timeout=WAIT)
    assert not window.seat.sitting.isVisible()
    with demo.session() as session:
        line = trail(reader_of(session))[0]
    assert (line.action, getpass.getuser() in line.what) == ("let everybody sit down without a passphrase", True)


def test_another_person_sits_down_by_theirs_and_who_leaves_it_sits_on(qtbot, open_window, demo_folder, asking):
    window = open_window(demo_folder)
    click(next(chip for chip in window.seat.sitting.who.chips.values() if chip.text().startswith("R. K.")))
    sit(qtbot, window, WORDS)
    other = next(person for person in window.who.people if person.initials == "M. T.")
    window.who.chosen.emit(other)
    settle(qtbot, window)
    assert window.seat.sitting.isVisible()
    click(window.seat.sitting.leave_button)
    assert window.around.person.initials == "R. K."
    window.who.left.emit()
    settle(qtbot, window)
    assert not window.around.seated
