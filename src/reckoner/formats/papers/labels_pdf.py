"""Labels as PDF, each at its true size; the typeface is embedded."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

from reportlab.pdfgen.canvas import Canvas

from reckoner.core.decision.states import State
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import Label, LabelSize
from reckoner.formats.papers.fencemark import dot_place
from reckoner.formats.papers.pdf import MM, Face, faces, square_code, width_of, write

INK, PAPER = "#000000", "#FFFFFF"
"""A label printer knows no other."""

EDGE_MM = 1.5
MARK_WIDE, MARK_RIGHT = 4.2, 2.1
"""A fence mark's width, and how far it reaches right of its middle, in the posts' distance from there."""

CODE_SHARE = 0.36
"""Of a label's width, at most, that the square code takes."""


def labels_pdf(labels: Sequence[Label], size: LabelSize, first: int = 0) -> bytes:
    """The labels one after the other, on sheets from the place ``first`` on. Raises ValueError for a place that is not on a
    sheet."""
    if not 0 <= first < size.a_sheet:
        raise ValueError(first)

    faces()
    wide, high = size.sheet or (size.wide, size.high)
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(wide * MM, high * MM))
    canvas.setTitle(tr("Labels"))
    for number, label in enumerate(labels, start=first):
        place = number % size.a_sheet
        if place == 0 and number > first:
            canvas.showPage()
        x, y = size.corner(place)
        canvas.saveState()
        canvas.translate(x * MM, (high - y - size.high) * MM)
        _label(canvas, label, size.wide * MM, size.high * MM)
        canvas.restoreState()
    canvas.save()
    return out.getvalue()


def _label(canvas: Any, label: Label, wide: float, high: float) -> None:
    edge = EDGE_MM * MM
    bottom = edge
    if label.banner:
        bottom += _banner(canvas, label.banner, wide, high)
    side = min(high - edge - bottom, wide * CODE_SHARE)
    square_code(canvas, label.code, wide - edge - side, high - edge - side, side)
    room = wide - 3 * edge - side
    unit = min(0.1 * high, room * 0.07) if label.marked else 0.0
    size = _largest(label.number, Face.BOLD, room - MARK_WIDE * unit, 0.34 * high)
    top = high - edge - size * 0.75
    canvas.setFillColor(INK)
    write(canvas, edge, top, label.number, Face.BOLD, size)
    if unit:
        _mark(canvas, label.state, edge + room - MARK_RIGHT * unit, top + size * 0.34, unit)
    each = min(0.17 * high, (top - bottom) / max(1, len(label.lines)))
    y = top - each * 1.15
    for line in label.lines:
        font = min(each * 0.82, _largest(line, Face.STRONG, room, each * 0.82))
        write(canvas, edge, max(y, bottom), line, Face.STRONG, font)
        y -= each


def _banner(canvas: Any, words: str, wide: float, high: float) -> float:
    """A black strip with white words along the foot; says how high it is."""
    strip = 0.22 * high
    canvas.setFillColor(INK)
    canvas.rect(0, 0, wide, strip, stroke=0, fill=1)
    canvas.setFillColor(PAPER)
    font = _largest(words, Face.BOLD, wide - 2 * EDGE_MM * MM, strip * 0.66)
    write(canvas, wide / 2, strip / 2 - font * 0.34, words, Face.BOLD, font, 0.5)
    return strip


def _largest(words: str, face: Face, room: float, most: float) -> float:
    """The largest size, at ``most``, at which ``words`` find ``room``."""
    wide = width_of(words, face, 1.0)
    return min(most, room / wide) if wide else most


def _mark(canvas: Any, state: State | None, x: float, y: float, unit: float) -> None:
    """The fence mark: two posts, and between or beyond them where the last result lies."""
    canvas.setStrokeColor(INK)
    canvas.setLineWidth(unit * 0.22)
    for side in (-1, 1):
        canvas.line(x + side * unit, y - unit, x + side * unit, y + unit)
    if state is None:
        return
    at, radius = x + dot_place(state) * unit * 0.82, unit * 0.36
    if state in (State.OUTSIDE, State.OUTSIDE_NEAR):
        canvas.line(at - radius, y - radius, at + radius, y + radius)
        canvas.line(at - radius, y + radius, at + radius, y - radius)
    else:
        canvas.setFillColor(INK)
        canvas.circle(at, y, radius, stroke=1, fill=int(state is State.INSIDE))
