"""A setting card at the size of a label: what to set, large, with the lever drawn true to scale."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from reckoner.formats.papers.pdf import INK, LINE, MM, QUIET, Face, faces, width_of, write

EDGE_MM = 2.0
USUAL_MM = (70.0, 42.0)
SMALLEST_MM = (60.0, 34.0)
"""A smaller label is none for a setting card."""


@dataclass(frozen=True)
class SettingCard:
    """``lead`` is what to set, ``lines`` what it is for; lengths of the lever in m: ``grip``, the ``hand``, and each adapter
    as (length, angle in rad). ``foot`` is small."""

    lead: str
    lines: tuple[str, ...]
    grip: float | None
    hand: float | None
    adapters: tuple[tuple[float, float], ...]
    foot: str


def setting_card_pdf(card: SettingCard, size_mm: tuple[float, float] = USUAL_MM) -> bytes:
    """The card as a PDF, one page of just that size."""
    from reportlab.pdfgen.canvas import Canvas  # loads slowly

    faces()
    made = io.BytesIO()
    wide, high = size_mm[0] * MM, size_mm[1] * MM
    canvas = Canvas(made, pagesize=(wide, high), pageCompression=1)
    canvas.setTitle(card.lead)
    canvas.setCreator("Reckoner")
    edge = EDGE_MM * MM
    room = wide - 2 * edge
    lead = min(0.24 * high, room / max(1e-6, width_of(card.lead, Face.BOLD, 1.0)))
    canvas.setFillColor(INK)
    y = high - edge - lead * 0.8
    write(canvas, edge, y, card.lead, Face.BOLD, lead)
    each = 0.085 * high
    for words in card.lines:
        y -= each * 1.2
        font = min(each, room / max(1e-6, width_of(words, Face.STRONG, 1.0)))
        write(canvas, edge, y, words, Face.STRONG, font)
    canvas.setFillColor(QUIET)
    small = min(0.055 * high, room / max(1e-6, width_of(card.foot, Face.REGULAR, 1.0)))
    write(canvas, edge, edge, card.foot, Face.REGULAR, small)
    below = edge + small * 1.6
    if card.grip is not None and y - below > 6 * MM:
        _lever(canvas, card, edge, below, room, y - each * 0.4 - below)
    canvas.showPage()
    canvas.save()
    return made.getvalue()


def _lever(canvas: Any, card: SettingCard, left: float, bottom: float, wide: float, high: float) -> None:
    """The handle to the right of the drive, the adapters from it on, the hand as an arrow."""
    grip = card.grip or 0.4
    joints = [(0.0, 0.0)]
    for length, angle in card.adapters:
        x, y = joints[-1]
        joints.append((x - length * math.cos(angle), y + length * math.sin(angle)))
    away = max(0.0, -min(x for x, _ in joints))
    up, down = max(y for _, y in joints), -min(y for _, y in joints)
    scale = min((wide - 16) / (grip * 1.1 + away), (high - 12) / max(0.06, up + down + 0.05))
    ox = left + 8 + away * scale
    oy = bottom + 6 + max(down * scale, 0.35 * (high - 12 - (up + down) * scale))

    def at(x: float, y: float) -> tuple[float, float]:
        return ox + x * scale, oy + y * scale

    canvas.setStrokeColor(INK)
    canvas.setLineWidth(0.8)
    canvas.setFillColor("#FFFFFF")
    canvas.roundRect(ox, oy - 2.2, grip * 1.1 * scale, 4.4, 2, stroke=1, fill=1)
    canvas.roundRect(ox + grip * 0.8 * scale, oy - 3.4, grip * 0.3 * scale, 6.8, 3, stroke=1, fill=1)
    canvas.setLineWidth(3.2)
    for (x0, y0), (x1, y1) in pairwise(joints):
        canvas.line(*at(x0, y0), *at(x1, y1))
    canvas.setLineWidth(0.8)
    canvas.circle(*at(0, 0), 4, stroke=1, fill=1)
    end = at(*joints[-1])
    canvas.circle(*end, 3.4, stroke=1, fill=1)
    hand = ox + (card.hand or grip) * scale
    canvas.line(hand, oy - 3, hand, oy - 9)
    canvas.line(hand, oy - 9, hand - 2, oy - 6)
    canvas.line(hand, oy - 9, hand + 2, oy - 6)
    canvas.setStrokeColor(LINE)
    canvas.line(hand, oy + 4, hand, oy + 7)
