"""The lever drawing by itself: true to scale, every part dragged and stepped, and nothing off the lever."""

import math

import pytest
from PyQt6.QtCore import QPoint, QPointF, QSizeF, Qt
from PyQt6.QtTest import QTest

from reckoner.core.tightening.adapters import Adapter, Lever, factor
from reckoner.ui.drawings.lever import LeverDrawing
from reckoner.ui.drawings.levershape import AdapterShown, Geometry, LeverPart, LeverState

SHIFT = Qt.KeyboardModifier.ShiftModifier


@pytest.fixture
def drawing(qtbot, theme):
    made = LeverDrawing(theme)
    qtbot.addWidget(made)
    made.resize(800, 400)
    made.moves = []
    made.moved.connect(lambda part, value: made.moves.append((part, round(value, 4))))
    return made


def test_hook_and_balance_stay_on_the_lever(drawing):
    drawing.show_state(LeverState(grip=0.4, pivot=0.03, hook=0.35, balance=0.19))
    for to in (0.9, 0.0):
        drawing._move(to)
    QTest.keyClick(drawing, Qt.Key.Key_Up)
    QTest.keyClick(drawing, Qt.Key.Key_Right)
    QTest.keyClick(drawing, Qt.Key.Key_Left, SHIFT)
    assert drawing.moves == [
        (LeverPart.HOOK, 0.4), (LeverPart.HOOK, 0.031), (LeverPart.BALANCE, 0.191), (LeverPart.BALANCE, 0.18),
    ]  # fmt: skip
    assert "Grip mark at 400" in drawing.accessibleDescription()


def test_keys_take_each_part_in_turn_and_turn_what_turns(drawing):
    drawing.show_state(
        LeverState(grip=0.32, hand=0.3, tilt_rad=0.0, adapters=(AdapterShown(0.045, 0.0), AdapterShown(0.03, 1.0)))
    )
    assert drawing.part is LeverPart.HAND  # there is no hook
    for key, modifier in (
        (Qt.Key.Key_Left, Qt.KeyboardModifier.NoModifier),
        (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier),
        (Qt.Key.Key_Right, Qt.KeyboardModifier.NoModifier),
        (Qt.Key.Key_Down, Qt.KeyboardModifier.NoModifier),
        (Qt.Key.Key_Right, SHIFT),
    ):
        QTest.keyClick(drawing, key, modifier)
    assert drawing.moves == [
        (LeverPart.HAND, 0.299),
        (LeverPart.TILT, round(math.radians(0.5), 4)),
        (LeverPart.ADAPTER, round(math.radians(15), 4)),
    ]  # fmt: skip
    assert drawing.index == 0
    QTest.keyClick(drawing, Qt.Key.Key_Down)
    assert (drawing.part, drawing.index) == (LeverPart.ADAPTER, 1)
    drawing.part = LeverPart.TILT
    drawing._move(math.radians(80))
    assert drawing.moves[-1] == (LeverPart.TILT, round(math.radians(30), 4))  # further down it is no lever
    words = drawing.accessibleDescription()
    assert "adapter 45" in words
    assert "hand at 300" in words


@pytest.mark.parametrize(("degrees", "to"), [(91.5, 90.0), (60.2, 60.0), (178.0, 180.0), (-44.0, -45.0)])
def test_a_dragged_adapter_points_to_the_hand_and_snaps_to_the_usual_angles(drawing, degrees, to):
    drawing.show_state(LeverState(grip=0.32, adapters=(AdapterShown(0.045, 0.4),)))
    geometry = drawing.geometry_of
    start, at = geometry.joints()[1], geometry.drive
    radius, angle = 0.045 * geometry.scale, math.radians(degrees)
    end = QPointF(at.x() - radius * math.cos(angle), at.y() - radius * math.sin(angle))
    QTest.mousePress(drawing, Qt.MouseButton.LeftButton, pos=start.toPoint())
    QTest.mouseMove(drawing, end.toPoint())
    QTest.mouseRelease(drawing, Qt.MouseButton.LeftButton, pos=end.toPoint())
    part, value = drawing.moves[-1]
    assert part is LeverPart.ADAPTER
    assert math.degrees(value) == pytest.approx(to, abs=1.01)
    if to % 45 == 0:
        assert math.degrees(value) == pytest.approx(to, abs=0.01)


def test_the_handle_is_dragged_off_level(drawing):
    drawing.show_state(LeverState(grip=0.4, hook=0.3, tilt_rad=0.0))
    end = drawing.geometry_of.place_of(LeverPart.TILT)
    QTest.mousePress(drawing, Qt.MouseButton.LeftButton, pos=end.toPoint())
    QTest.mouseMove(drawing, end.toPoint() + QPoint(0, 40))
    length = end.x() - drawing.geometry_of.drive.x()
    assert drawing.moves[-1][0] is LeverPart.TILT
    assert drawing.moves[-1][1] == pytest.approx(math.atan(40 / length), abs=math.radians(0.6))


@pytest.mark.parametrize(
    "adapters",
    [
        (AdapterShown(0.045, 0.0),),
        (AdapterShown(0.045, math.pi / 2),),
        (AdapterShown(0.045, math.pi),),
        (AdapterShown(0.06, math.radians(45)), AdapterShown(0.03, math.radians(120))),
    ],
)
def test_it_is_drawn_true_to_scale_so_that_the_factor_can_be_read_off_it(adapters):
    """The fastener's distance from the hand, along the handle, over the lever is the factor."""
    state = LeverState(grip=0.32, hand=0.32, adapters=adapters)
    geometry = Geometry(state, QSizeF(900, 420))
    fastener, hand = geometry.joints()[-1], geometry.along(0.32)
    drawn = (hand.x() - fastener.x()) / geometry.scale / 0.32
    assert drawn == pytest.approx(factor(Lever(0.32), [Adapter(a.length, a.angle_rad) for a in adapters]), rel=1e-9)
    for joint in geometry.joints():
        assert 0 < joint.x() < 900
        assert 0 < joint.y() < 420
    assert geometry.along(0.32 * 1.1).x() < 900


def test_a_tilted_lever_keeps_its_lengths(drawing):
    geometry = Geometry(LeverState(grip=0.4, hook=0.3, tilt_rad=math.radians(20)), QSizeF(800, 300))
    at, hook = geometry.drive, geometry.along(0.3)
    assert math.hypot(hook.x() - at.x(), hook.y() - at.y()) == pytest.approx(0.3 * geometry.scale)
    assert geometry.metres(hook.x()) == pytest.approx(0.3)
