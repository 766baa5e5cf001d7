"""Drawings that several papers share: the lever with what hangs on it, and the square code."""

from __future__ import annotations

from typing import Any

from reckoner.formats.languages import say
from reckoner.formats.papers.contents import FencePicture, LeverPicture
from reckoner.formats.papers.pdf import (
    HATCH,
    INK,
    INSIDE,
    LINE,
    QUIET,
    Face,
    flowable,
    space,
    square_code,
    text,
    width_of,
    write,
)


def lever_picture(lever: LeverPicture, wide: float) -> list[Any]:
    """The lever with its title and its words, kept together."""
    from reportlab.platypus import KeepTogether  # loads slowly

    return [
        KeepTogether([text(lever.title, 10, Face.STRONG), _lever_drawn(lever, wide), text(lever.words, 8.5)]),
        space(8),
    ]


def square(mark: str, side: float) -> Any:
    """The square code with the number and the digest."""

    def draw(canvas: Any) -> None:
        canvas.setFillColor(INK)
        square_code(canvas, mark, 0, 0, side)

    return flowable(side, side, draw)


def _lever_drawn(lever: LeverPicture, wide: float) -> Any:
    """The lever true to scale: drive in the vice, pin, balance point, hook with what hangs, grip mark."""
    drop, left = 22.0 + 10 * len(lever.weights), 40.0
    high = drop + 54
    scale = (wide - left - 30) / (lever.grip * 1.1)

    def x(metres: float) -> float:
        return left + metres * scale

    def draw(canvas: Any) -> None:
        y = drop
        canvas.setStrokeColor(INK)
        canvas.setLineWidth(0.8)
        canvas.setFillColor("#CFD9D1")
        for base in (y + 6, y - 20):
            canvas.roundRect(left - 18, base, 28, 14, 2, stroke=1, fill=1)
        canvas.setFillColor("#FFFFFF")
        canvas.roundRect(left, y - 3, x(lever.grip * 1.1) - left, 6, 3, stroke=1, fill=1)
        canvas.roundRect(x(lever.grip * 0.8), y - 5, x(lever.grip * 1.1) - x(lever.grip * 0.8), 10, 4, stroke=1, fill=1)
        canvas.circle(left, y, 7, stroke=1, fill=1)
        canvas.setFillColor(INK)
        canvas.rect(left - 2.5, y - 2.5, 5, 5, stroke=0, fill=1)
        canvas.setLineWidth(1.2)
        canvas.line(x(lever.grip), y - 8, x(lever.grip), y + 8)
        canvas.setLineWidth(0.8)
        if lever.pivot:
            canvas.circle(x(lever.pivot), y, 2, stroke=1, fill=0)
        if lever.balance is not None:
            canvas.circle(x(lever.balance), y, 3.5, stroke=1, fill=0)
            canvas.circle(x(lever.balance), y, 1.2, stroke=0, fill=1)
        canvas.circle(x(lever.hook), y, 4, stroke=1, fill=0)
        canvas.line(x(lever.hook), y - 4, x(lever.hook), y - 16)
        for i, words in enumerate(lever.weights):
            canvas.rect(x(lever.hook) - 22, y - 26 - 10 * i, 44, 10, stroke=1, fill=0)
            write(canvas, x(lever.hook), y - 23.5 - 10 * i, words, Face.REGULAR, 7, 0.5)
        lines = [(lever.grip, y + 46, say("page.grip")), (lever.hook, y + 34, say("page.hook"))]
        if lever.balance is not None:
            lines.append((lever.balance, y + 22, say("page.balance")))
        for metres, level, words in lines:
            canvas.setStrokeColor(QUIET)
            canvas.setLineWidth(0.4)
            canvas.line(left, level, x(metres), level)
            for end in (left, x(metres)):
                canvas.line(end, level - 2, end, level + 2)
            said = f"{words} {lever.units.length_words(metres)}"
            canvas.setFillColor("#FFFFFF")
            middle = (left + x(metres)) / 2
            width = width_of(said, Face.REGULAR, 7) + 4
            canvas.rect(middle - width / 2, level - 4, width, 8, stroke=0, fill=1)
            canvas.setFillColor(INK)
            write(canvas, middle, level - 2.5, said, Face.REGULAR, 7, 0.5)

    return flowable(wide, high, draw)


REACH = 1.45
"""How far beyond its posts a fence is drawn, in limits."""


def fence_picture(fence: FencePicture, wide: float) -> Any:
    """Posts, near zone, ticks, and the mean with its whisker."""
    high = 15.0

    def at(deviation: float) -> float:
        return wide / 2 + max(-REACH, min(REACH, deviation / fence.limit)) * wide / 2 / REACH

    def draw(canvas: Any) -> None:
        left, right = at(-fence.limit), at(fence.limit)
        near = min(fence.near, fence.limit) / fence.limit * (right - left) / 2
        canvas.setFillColor(HATCH)
        for x in (left, right - near):
            canvas.rect(x, 0, near, high, stroke=0, fill=1)
        canvas.setStrokeColor(LINE)
        canvas.setLineWidth(0.5)
        canvas.line(0, 0, wide, 0)
        canvas.line(wide / 2, 0, wide / 2, high)
        canvas.setFillColor(INK)
        for x in (left, right):
            canvas.rect(x - 1, 0, 2, high + 2, stroke=0, fill=1)
        canvas.setStrokeColor(INSIDE)
        canvas.setLineWidth(1.2)
        for tick in fence.ticks:
            canvas.line(at(tick), 1.5, at(tick), high * 0.6)
        canvas.setStrokeColor(INK)
        canvas.setLineWidth(0.9)
        y = high * 0.8
        canvas.line(at(fence.mean - fence.whisker), y, at(fence.mean + fence.whisker), y)
        x = at(fence.mean)
        path = canvas.beginPath()
        path.moveTo(x, y + 3)
        for dx, dy in ((3, 0), (0, -3), (-3, 0)):
            path.lineTo(x + dx, y + dy)
        path.close()
        canvas.drawPath(path, stroke=0, fill=1)

    return flowable(wide, high + 3, draw)
