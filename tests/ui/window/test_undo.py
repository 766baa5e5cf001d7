"""Taking back is one's own: who is at the bench now takes back what that person did."""

from sqlalchemy import select

from reckoner.shop.people.present import people
from reckoner.shop.register.editing import change
from reckoner.shop.register.fields import fields_of
from reckoner.store.schema import Tool
from reckoner.store.terms import RegisterKind
from tests.support.hands import WAIT, settle
from tests.support.runs import tool_id


def test_ctrl_z_of_somebody_else_leaves_what_one_did_and_it_can_still_be_taken_back(
    qtbot, open_window, demo_folder, demo, act
):
    wanted = tool_id(demo, "HC-0417")
    place = select(Tool.place).where(Tool.id == wanted)
    with demo.session() as session:
        before = session.scalar(place)
        field = next(f for f in fields_of(RegisterKind.TOOL) if f.name == "place")
        command = change(session, RegisterKind.TOOL, wanted, field, "Tower 9", act)
    with demo.reading() as reader:
        first, second = people(reader)[:2]
    window = open_window(demo_folder)
    stack = window.around.undo_stack
    stack.did(command)
    window.seat.be(second)
    stack.undo()
    settle(qtbot, window)
    qtbot.waitUntil(lambda: "Nothing that you changed" in window.foot.words, timeout=WAIT)
    with demo.session() as session:
        assert session.scalar(place) == "Tower 9"
    window.seat.be(first)
    stack.undo()
    qtbot.waitUntil(lambda: "Taken back" in window.foot.words, timeout=WAIT)
    with demo.session() as session:
        assert session.scalar(place) == before
