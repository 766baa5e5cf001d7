"""A beam's scale on paper at its true size, with a line to verify the printer by."""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import Any

from reckoner.core.adjusting.beamscale import Mark
from reckoner.core.errors import Refused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits, UnitSystem
from reckoner.core.quantities.printing import number, quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr
from reckoner.formats.papers.pdf import A4_MM, MM, Face, faces, write

RULER_MM, RULER_INCHES = 100.0, 4
"""The line that is measured on the print."""

MARGIN_MM = 15.0

SHORT_MM, LONG_MM = 4.0, 7.0
"""How long a mark is; every numbered one is long."""

LEAST_BETWEEN_NUMBERS_MM = 9.0


class ScaleTooLong(Refused):
    """The scale does not fit on a page: ``length_mm`` beside the ``room_mm`` that there is."""

    def __init__(self, length_mm: float, room_mm: float, units: OwnUnits = METRIC) -> None:
        super().__init__(length_mm)
        self.length_mm, self.room_mm, self.units = length_mm, room_mm, units

    @property
    def _decimals(self) -> int:
        return 1 if self.units.system is UnitSystem.INCH else 0

    def __str__(self) -> str:
        return tr(
            "The scale is {length} long, and a page has room for {room}. Mark it in parts, or nearer to where the "
            "pointer turns.",
            length=quantity(self.length_mm / 1000, self.units.length, self._decimals),
            room=quantity(self.room_mm / 1000, self.units.length, self._decimals),
        )


@dataclass(frozen=True)
class ScalePage:
    """What stands on the page: its ``title``, ``lines`` below it, and the ``graduations`` along an arc of ``radius`` m, or a
    straight rule (None). Lengths are told in the ``units``."""

    title: str
    lines: tuple[str, ...]
    graduations: tuple[Mark, ...]
    unit: Unit
    radius: float | None
    units: OwnUnits = METRIC


def scale_pdf(page: ScalePage) -> bytes:
    """The page as a PDF, A4, upright or lying as the scale needs it. Raises ScaleTooLong."""
    from reportlab.pdfgen.canvas import Canvas  # loads slowly

    faces()
    width, height = _size(page)
    made = io.BytesIO()
    canvas = Canvas(made, pagesize=(width * MM, height * MM), pageCompression=1)
    canvas.setTitle(page.title)
    canvas.setCreator("Reckoner")
    canvas.scale(MM, MM)  # millimetres from here on
    canvas.setLineCap(0)
    y = height - MARGIN_MM - 5
    write(canvas, MARGIN_MM, y, page.title, Face.BOLD, 5.5)
    for line in page.lines:
        y -= 5.2
        write(canvas, MARGIN_MM, y, line, Face.REGULAR, 3.4)
    _ruler(canvas, MARGIN_MM, y - 14, inches=page.units.system is UnitSystem.INCH)
    top = y - 34
    if page.radius is None:
        _straight(canvas, page, width, top)
    else:
        _arc(canvas, page, width, top)
    canvas.showPage()
    canvas.save()
    return made.getvalue()


def _extent(page: ScalePage) -> tuple[float, float]:
    """Where the marks begin and end, mm along the rule or arc."""
    places = [m.deflection * 1000 for m in page.graduations]
    return min(places), max(places)


def _size(page: ScalePage) -> tuple[float, float]:
    low, high = _extent(page)
    wide = high - low
    if page.radius is not None:
        angle = wide / (page.radius * 1000)
        if angle > math.pi:
            raise ScaleTooLong(wide, math.pi * page.radius * 1000, page.units)
        wide = 2 * (page.radius * 1000 + LONG_MM + 6) * math.sin(angle / 2)
    for size in (A4_MM, A4_MM[::-1]):
        room = size[0] - 2 * MARGIN_MM - 8
        if wide <= room:
            return size
    raise ScaleTooLong(wide, A4_MM[1] - 2 * MARGIN_MM - 8, page.units)


def _ruler(canvas: Any, x: float, y: float, *, inches: bool) -> None:
    """A line of known length: who measures it on the print knows whether the printer kept the size."""
    step, count, long = (25.4 / 8, 8 * RULER_INCHES, 8) if inches else (10.0, int(RULER_MM / 10), 5)
    canvas.setLineWidth(0.2)
    canvas.line(x, y, x + step * count, y)
    for i in range(count + 1):
        canvas.line(x + step * i, y, x + step * i, y + (3.0 if i % long == 0 else 1.8))
    length = tr("{inches} in", inches=RULER_INCHES) if inches else tr("{ruler_mm:.0f} mm", ruler_mm=RULER_MM)
    canvas.setFont(Face.STRONG.value, 3.2)
    canvas.drawString(
        x,
        y - 4.5,
        tr(
            "Measure this line: it is {length} long. If it is not, print at 100 %, not fitted.",
            length=length,
        ),
    )


def _numbered(page: ScalePage) -> int:
    """Every how many marks one is numbered, so that the numbers find room."""
    places = [m.deflection * 1000 for m in page.graduations]
    between = abs(places[1] - places[0]) if len(places) > 1 else LEAST_BETWEEN_NUMBERS_MM
    return next((n for n in (1, 2, 5, 10, 20, 50, 100) if n * between >= LEAST_BETWEEN_NUMBERS_MM), 200)


def _words(page: ScalePage, mark: Mark) -> str:
    return number(page.unit.from_si(mark.torque))


def _straight(canvas: Any, page: ScalePage, width: float, top: float) -> None:
    low, high = _extent(page)
    left, y, every = (width - (high - low)) / 2, top - 12, _numbered(page)
    canvas.setLineWidth(0.25)
    canvas.line(left, y, left + high - low, y)
    for i, mark in enumerate(page.graduations):
        x, long = left + mark.deflection * 1000 - low, i % every == 0
        canvas.line(x, y, x, y + (LONG_MM if long else SHORT_MM))
        if long:
            canvas.setFont(Face.STRONG.value, 3.4)
            canvas.drawCentredString(x, y + LONG_MM + 1.5, _words(page, mark))
    canvas.setFont(Face.REGULAR.value, 3.4)
    canvas.drawCentredString(width / 2, y - 5, page.unit.symbol)


def _arc(canvas: Any, page: ScalePage, width: float, top: float) -> None:
    """Along the arc that the pointer's tip follows; where it turns lies below, and is marked where it is on the page."""
    radius = (page.radius or 0.0) * 1000
    low, high = _extent(page)
    middle, every = (low + high) / 2, _numbered(page)
    cx, cy = width / 2, top - 14 - radius
    half = (high - low) / 2 / radius
    canvas.setLineWidth(0.25)
    box = (cx - radius, cy - radius, cx + radius, cy + radius)
    canvas.arc(*box, math.degrees(math.pi / 2 - half), math.degrees(2 * half))
    for i, mark in enumerate(page.graduations):
        angle, long = math.pi / 2 - (mark.deflection * 1000 - middle) / radius, i % every == 0
        out = radius + (LONG_MM if long else SHORT_MM)
        canvas.line(*_at(cx, cy, radius, angle), *_at(cx, cy, out, angle))
        if long:
            canvas.saveState()
            x, y = _at(cx, cy, out + 1.5, angle)
            canvas.translate(x, y)
            canvas.rotate(math.degrees(angle) - 90)
            canvas.setFont(Face.STRONG.value, 3.4)
            canvas.drawCentredString(0, 0, _words(page, mark))
            canvas.restoreState()
    canvas.setFont(Face.REGULAR.value, 3.4)
    told = page.units.length_words(page.radius or 0.0)
    words = tr("{symbol}, radius {radius}", symbol=page.unit.symbol, radius=told)
    write(canvas, cx, cy + radius - 7, words, Face.REGULAR, 3.4, 0.5)
    if cy > MARGIN_MM:
        canvas.line(cx - 3, cy, cx + 3, cy)
        canvas.line(cx, cy - 3, cx, cy + 3)


def _at(cx: float, cy: float, radius: float, angle: float) -> tuple[float, float]:
    return cx + radius * math.cos(angle), cy + radius * math.sin(angle)
