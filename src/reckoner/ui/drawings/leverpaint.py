"""Painting a lever: the vice or the fastener, the wrench with its adapters, what hangs or pulls, and the dimension lines."""

from __future__ import annotations

import math
from itertools import pairwise

from PyQt6.QtCore import QLineF, QPointF, QRectF, Qt
from PyQt6.QtGui import QPainter, QPen, QPolygonF

from reckoner.core.quantities.printing import MINUS, fixed
from reckoner.core.translation import tr
from reckoner.ui.drawings.levershape import BEYOND, Geometry, LeverPart, LeverState
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID

ChosenTool = tuple[LeverPart, int] | None
"""The part in hand; None where it is only looked at."""


def paint_lever(painter: QPainter, theme: Theme, geometry: Geometry, chosen: ChosenTool) -> None:
    """Draw all of it."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    state = geometry.state
    if state.disc:
        _disc(painter, theme, geometry)
        _hanging(painter, theme, geometry, "ink")
        _dimensions(painter, theme, geometry)
        return
    if state.adapters:
        _adapters(painter, theme, geometry, chosen)
    else:
        _vice(painter, theme, geometry.drive)
    _level(painter, theme, geometry)
    _wrench(painter, theme, geometry)
    _hanging(painter, theme, geometry, _tone(chosen, LeverPart.HOOK))
    _hand(painter, theme, geometry, _tone(chosen, LeverPart.HAND))
    _balance(painter, theme, geometry, _tone(chosen, LeverPart.BALANCE))
    _dimensions(painter, theme, geometry)


def _tone(chosen: ChosenTool, part: LeverPart, index: int = 0) -> str:
    return "accent" if chosen == (part, index) else "ink"


def _disc(painter: QPainter, theme: Theme, geometry: Geometry) -> None:
    """The disc from the front, on the drive of a screwdriver whose handle is held behind it."""
    at, radius = geometry.drive, geometry.state.grip * geometry.scale
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("surface"))
    painter.drawEllipse(at, radius, radius)
    painter.setBrush(theme.color("line"))
    painter.drawEllipse(at, 2.5 * GRID, 2.5 * GRID)
    painter.setBrush(theme.color("ink"))
    painter.drawRect(QRectF(at.x() - 5, at.y() - 5, 10, 10))


def _vice(painter: QPainter, theme: Theme, at: QPointF) -> None:
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("frame"))
    for top in (at.y() - 4.5 * GRID, at.y() + 1.5 * GRID):
        painter.drawRoundedRect(QRectF(at.x() - 4 * GRID, top, 6 * GRID, 3 * GRID), 3, 3)
    painter.drawRect(QRectF(at.x() - 7 * GRID, at.y() - 3 * GRID, 3 * GRID, 8 * GRID))


def _adapters(painter: QPainter, theme: Theme, geometry: Geometry, chosen: ChosenTool) -> None:
    """Each adapter as a bar from joint to joint, the window of its angle, and the fastener at the end."""
    joints, state = geometry.joints(), geometry.state
    if state.square is not None:
        _window(painter, theme, geometry, state.square)
    for i, (start, end) in enumerate(pairwise(joints)):
        tone = _tone(chosen, LeverPart.ADAPTER, i)
        painter.setPen(QPen(theme.color(tone), 11, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(QLineF(start, end))
        painter.setPen(QPen(theme.color("surface"), 7, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLine(QLineF(start, end))
        _angle(painter, theme, start, state.adapters[i].angle_rad, math.hypot(end.x() - start.x(), end.y() - start.y()))
        _beside(
            painter,
            theme,
            start,
            end,
            f"{state.adapters[i].words} {state.units.length_words(state.adapters[i].length)}".strip(),
        )
    last = joints[-1]
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("frame"))
    hexagon = [
        QPointF(last.x() + 12 * math.cos(math.radians(60 * k)), last.y() + 12 * math.sin(math.radians(60 * k)))
        for k in range(6)
    ]
    painter.drawPolygon(QPolygonF(hexagon))
    painter.setBrush(theme.color("surface"))
    painter.drawEllipse(last, 5, 5)


def _beside(painter: QPainter, theme: Theme, start: QPointF, end: QPointF, words: str) -> None:
    """Words beside a bar: above one that lies, at the right of one that stands, for the angle is at the left."""
    length = math.hypot(end.x() - start.x(), end.y() - start.y()) or 1.0
    across = QPointF((end.y() - start.y()) / length, -(end.x() - start.x()) / length)
    if across.x() < -1e-9 or (abs(across.x()) <= 1e-9 and across.y() > 0):
        across = QPointF(-across.x(), -across.y())
    painter.setFont(theme.font(Type.CAPTION))
    wide = painter.fontMetrics().horizontalAdvance(words)
    away = 2 * GRID + abs(across.x()) * wide / 2
    middle = QPointF((start.x() + end.x()) / 2 + across.x() * away, (start.y() + end.y()) / 2 + across.y() * away)
    painter.setPen(theme.color("ink"))
    painter.drawText(
        QRectF(middle.x() - wide / 2 - GRID, middle.y() - GRID, wide + 2 * GRID, 2 * GRID),
        Qt.AlignmentFlag.AlignCenter,
        words,
    )


def _window(painter: QPainter, theme: Theme, geometry: Geometry, square: tuple[float, float]) -> None:
    """The angles within which the first adapter changes little, as a piece of a ring."""
    at, radius = geometry.drive, geometry.state.adapters[0].length * geometry.scale
    ring = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
    low, high = (180 - math.degrees(angle) for angle in square)
    painter.setPen(QPen(theme.color("inside"), 4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawArc(ring, round(high * 16), round((low - high) * 16))


def _angle(painter: QPainter, theme: Theme, at: QPointF, angle_rad: float, long: float) -> None:
    """An arc from the handle's axis to the adapter, ``long`` pixels, with the angle in it; beyond a short one's fastener."""
    radius = 3.5 * GRID
    arc = QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius)
    degrees = math.degrees(angle_rad)
    painter.setPen(QPen(theme.color("quiet"), 1, Qt.PenStyle.DashLine))
    painter.drawLine(at, QPointF(at.x() - radius - GRID, at.y()))
    if abs(degrees) < 1:
        return
    painter.setPen(QPen(theme.color("quiet"), 1))
    painter.drawArc(arc, 180 * 16, round(-degrees * 16))
    painter.setFont(theme.font(Type.CAPTION))
    painter.setPen(theme.color("ink"))
    half = math.radians(180 - degrees / 2)
    away = max(radius + 2 * GRID, min(long, 2 * radius) + 3.5 * GRID)
    where = QPointF(at.x() + away * math.cos(half), at.y() - away * math.sin(half))
    box = QRectF(where.x() - 3 * GRID, where.y() - GRID, 6 * GRID, 2 * GRID)
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{fixed(degrees, 0)}°")


def _level(painter: QPainter, theme: Theme, geometry: Geometry) -> None:
    """The level line beside a handle that is not level, with the angle between."""
    tilt = geometry.state.tilt_rad
    if not tilt:
        return
    at, far = geometry.drive, geometry.state.grip * BEYOND * geometry.scale
    painter.setPen(QPen(theme.color("quiet"), 1, Qt.PenStyle.DashLine))
    painter.drawLine(at, QPointF(at.x() + far, at.y()))
    painter.setFont(theme.font(Type.CAPTION))
    painter.setPen(theme.color("ink"))
    box = QRectF(at.x() + far - 14 * GRID, at.y() - 3.5 * GRID, 14 * GRID, 2 * GRID)
    sense = tr("below") if tilt > 0 else tr("above")
    painter.drawText(
        box,
        Qt.AlignmentFlag.AlignRight,
        tr("{degrees}° {sense} level", degrees=fixed(abs(math.degrees(tilt)), 1), sense=sense),
    )


def _wrench(painter: QPainter, theme: Theme, geometry: Geometry) -> None:
    state, at = geometry.state, geometry.drive
    painter.save()
    painter.translate(at)
    painter.rotate(math.degrees(state.tilt_rad or 0.0))
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("surface"))
    end, scale = state.grip * BEYOND * geometry.scale, geometry.scale
    painter.drawRoundedRect(QRectF(0, -6, end, 12), 5, 5)
    painter.setBrush(theme.color("line"))
    handle = state.grip * 0.8 * scale
    painter.drawRoundedRect(QRectF(handle, -9, end - handle, 18), 8, 8)
    painter.setBrush(theme.color("surface"))
    painter.drawEllipse(QPointF(0, 0), 13, 13)
    painter.setBrush(theme.color("ink"))
    painter.drawRect(QRectF(-5, -5, 10, 10))
    if state.pivot:
        painter.setBrush(theme.color("surface"))
        painter.drawEllipse(QPointF(state.pivot * scale, 0), 4, 4)
    painter.setPen(QPen(theme.color("ink"), 2.5))
    painter.drawLine(QPointF(state.grip * scale, -12), QPointF(state.grip * scale, 12))
    painter.restore()


def _hanging(painter: QPainter, theme: Theme, geometry: Geometry, tone: str) -> None:
    state = geometry.state
    if state.hook is None:
        return
    at = geometry.along(state.hook)
    painter.setPen(QPen(theme.color(tone), 2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawEllipse(at, 8, 8)
    y = at.y() + 4 * GRID
    painter.drawLine(QPointF(at.x(), at.y() + 8), QPointF(at.x(), y))
    heaviest = max((mass for _, mass in state.weights), default=1.0)
    painter.setFont(theme.font(Type.CAPTION))
    room = geometry.size.height() - y - 5 * GRID
    high = min(2.5 * GRID, room / max(1, len(state.weights)))
    for words, mass in state.weights:
        half = (3 + 4 * (mass / heaviest) ** (1 / 3)) * GRID / 2 + 2 * GRID
        body = QRectF(at.x() - half, y, 2 * half, high - 2)
        slope = QPolygonF(
            [
                body.topLeft() + QPointF(GRID, 0),
                body.topRight() - QPointF(GRID, 0),
                body.bottomRight(),
                body.bottomLeft(),
            ]
        )
        painter.setPen(QPen(theme.color("ink"), 1.5))
        painter.setBrush(theme.color("tag"))
        painter.drawPolygon(slope)
        painter.setPen(theme.color("ink"))
        painter.drawText(body, Qt.AlignmentFlag.AlignCenter, words)
        y += high


def _hand(painter: QPainter, theme: Theme, geometry: Geometry, tone: str) -> None:
    """Where the hand pulls: an arrow square to the handle."""
    state = geometry.state
    if state.hand is None:
        return
    at = geometry.along(state.hand)
    tip = QPointF(at.x(), at.y() + 7 * GRID)
    painter.setPen(QPen(theme.color(tone), 3))
    painter.drawLine(QPointF(at.x(), at.y() + 12), tip)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color(tone))
    painter.drawPolygon(QPolygonF([tip + QPointF(0, GRID), tip + QPointF(-7, -4), tip + QPointF(7, -4)]))
    painter.setPen(QPen(theme.color(tone), 2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRoundedRect(QRectF(at.x() - 2 * GRID, at.y() - 13, 4 * GRID, 26), 9, 9)


def _balance(painter: QPainter, theme: Theme, geometry: Geometry, tone: str) -> None:
    if geometry.state.balance is None:
        return
    at = geometry.along(geometry.state.balance)
    painter.setPen(QPen(theme.color(tone), 1.5))
    painter.setBrush(theme.color("surface"))
    painter.drawEllipse(at, 7, 7)
    painter.setBrush(theme.color(tone))
    for start in (0, 180):
        painter.drawPie(QRectF(at.x() - 7, at.y() - 7, 14, 14), start * 16, 90 * 16)


def _dimensions(painter: QPainter, theme: Theme, geometry: Geometry) -> None:
    """Above: grip mark, balance point, adapters; below: the hook, or the hand."""
    state, at, high = geometry.state, geometry.drive, geometry.size.height()
    length = state.units.length_words
    painter.setFont(theme.font(Type.CAPTION))
    top = 1.5 * GRID  # above adapters that stand up from the drive too
    lines = [
        (
            state.grip,
            top,
            tr("{which} {length}", which=tr("radius") if state.disc else tr("grip mark"), length=length(state.grip)),
        )
    ]
    if state.balance is not None:
        own = f", {state.own}" if state.own else ""
        lines.append(
            (state.balance, top + 2.25 * GRID, tr("balance {length}{own}", length=length(state.balance), own=own))
        )
    if state.hook is not None and not state.disc:
        lines.append((state.hook, high - 2.5 * GRID, tr("hook {length}", length=length(state.hook))))
    elif state.hand is not None:
        lines.append((state.hand, high - 2.5 * GRID, tr("hand {length}", length=length(state.hand))))
    for metres, y, words in lines:
        _dimension(painter, theme, at.x(), geometry.along(metres).x(), y, words)
    joints = geometry.joints()
    if state.adapters:
        reach = state.chain[-1][0]
        words = tr(
            "reach {sign}{length}",
            sign="+" if reach > 0 else MINUS if reach < 0 else "",
            length=length(abs(round(reach, 4))),
        )
        _dimension(painter, theme, joints[-1].x(), at.x(), at.y() + 5.5 * GRID, words)
    if state.pivot:
        painter.setPen(theme.color("quiet"))
        where = QRectF(geometry.along(state.pivot).x() - GRID, at.y() + GRID, 12 * GRID, 2 * GRID)
        painter.drawText(where, Qt.AlignmentFlag.AlignLeft, tr("pin {length}", length=length(state.pivot)))
    if state.torque:
        painter.setFont(theme.font(Type.STRONG))
        painter.setPen(theme.color("ink"))
        where = QRectF(0, high - 6 * GRID, at.x() + 16 * GRID, 3 * GRID)
        painter.drawText(where, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, state.torque)


def _dimension(painter: QPainter, theme: Theme, left: float, right: float, y: float, words: str) -> None:
    left, right = min(left, right), max(left, right)
    painter.setPen(QPen(theme.color("quiet"), 1))
    painter.drawLine(QPointF(left, y), QPointF(right, y))
    for x in (left, right):
        painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
    wide = painter.fontMetrics().horizontalAdvance(words) + GRID
    middle = max((left + right) / 2, left + wide / 2 + 2)
    box = QRectF(middle - wide / 2, y - GRID, wide, 2 * GRID)
    painter.fillRect(box, theme.color("surface"))
    painter.setPen(theme.color("ink"))
    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


def described(state: LeverState) -> str:
    """The drawing in words, for who does not see it."""
    length = state.units.length_words
    said = [
        tr("Grip mark at {length}", length=length(state.grip)),
        tr("hook at {length}", length=length(state.hook)) if state.hook is not None else tr("nothing hangs"),
    ]
    if state.balance is not None:
        said.append(tr("balance point at {length}", length=length(state.balance)))
    if state.hand is not None:
        said.append(tr("hand at {length}", length=length(state.hand)))
    if state.tilt_rad:
        said.append(tr("{degrees}° below level", degrees=fixed(math.degrees(state.tilt_rad), 1)))
    said += [
        tr("adapter {length} at {degrees}°", length=length(a.length), degrees=fixed(math.degrees(a.angle_rad), 0))
        for a in state.adapters
    ]
    return f"{', '.join(said)}. {state.torque}"
