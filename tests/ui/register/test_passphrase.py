"""Setting another passphrase: by the one before, or by two other people."""

from reckoner.shop.people import seals
from reckoner.shop.people.authorship import Act
from reckoner.shop.register.editing import change
from reckoner.shop.register.fields import field_of
from reckoner.store.schema import Person
from reckoner.store.terms import RegisterKind
from tests.support.hands import ENTER, WAIT, click, focused, go, press, settle, type_in


def test_another_passphrase_asks_for_the_one_before_and_where_it_is_forgotten_for_two_others(
    qtbot, open_window, demo_folder, demo, act
):
    with demo.session() as session:
        seals.set_passphrase(session, 2, "the second one's words", Act(2, act.at))
        seals.set_passphrase(session, 3, "the third one's words", Act(3, act.at))
    window = open_window(demo_folder)
    assert window.around.person.id == 1
    go(window, "tools", register=RegisterKind.PERSON, row=2)
    settle(qtbot, window)
    setter = window.current.other.above
    qtbot.waitUntil(lambda: setter.ask.text() == "Set another passphrase…", timeout=WAIT)
    click(setter.ask)
    assert setter.before.isVisible()
    for field, words in (
        (setter.before, "a guess"),
        (setter.first, "taken over by R. K."),
        (setter.again, "taken over by R. K."),
    ):
        field.line.setText(words)
    click(setter.keep)
    qtbot.waitUntil(lambda: "not the passphrase" in setter.before.hint.text(), timeout=WAIT)
    click(setter.forget)
    assert not setter.before.isVisible()
    assert not setter.own.isVisible()  # R. K. has none
    assert "2" not in setter.second.chips
    click(setter.second.chips["3"])
    assert setter.beside.isVisible()
    setter.beside.line.setText("the third one's word")
    click(setter.keep)
    qtbot.waitUntil(lambda: "not the passphrase" in setter.beside.hint.text(), timeout=WAIT)
    setter.beside.line.setText("the third one's words")
    click(setter.keep)
    qtbot.waitUntil(lambda: not setter.first.isVisible(), timeout=WAIT)
    with demo.session() as session:
        key = seals.key_of(session, 2)
        assert (key.set_by_id, key.beside_id) == (1, 3)


def test_enter_goes_on_and_who_forgot_their_own_is_told_who_can_set_it(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        seals.set_passphrase(session, 1, "the first one's words", act)
    window = open_window(demo_folder)
    go(window, "tools", register=RegisterKind.PERSON, row=1)
    settle(qtbot, window)
    setter = window.current.other.above
    qtbot.waitUntil(lambda: setter.ask.text() == "Set another passphrase…", timeout=WAIT)
    click(setter.ask)
    type_in(window, "the first one's words")
    press(window, ENTER)
    assert focused(window) is setter.first.line
    type_in(window, "others, and longer")
    press(window, ENTER)
    assert setter.again.hint.text() == "Type it once more here."
    click(setter.forget)
    assert "comes here" in setter.how.text()
    assert not any(one.isVisible() for one in (setter.own, setter.second, setter.first, setter.keep))
    click(setter.ask)
    assert setter.before.isVisible()
    with demo.session() as session:
        for person_id in (2, 3, 4):
            if (person := session.get(Person, person_id)) is not None:
                change(session, RegisterKind.PERSON, person_id, field_of(RegisterKind.PERSON, "may_edit"), False, act)
                assert not person.may_edit
    setter.show_row(1)
    settle(qtbot, window)
    click(setter.forget)
    assert "as a person anew" in setter.how.text()
