"""Labels at their true size: what stands on one, and the sizes that a shop has.

A size is ``50 x 25`` (mm, one label a page, for a label printer) or ``A4: 3 x 8 of 70 x 35`` (columns x rows in the middle of
a sheet), with ``gap 2.5 x 0`` between them where there is one. Sizes are divided by semicolons.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.states import State
from reckoner.core.translation import tr
from reckoner.formats.pdf import A4_MM, LETTER_MM

SHEETS = {"A4": A4_MM, "LETTER": LETTER_MM}
LEAST_MM, MOST_MM = 10.0, 300.0
USUAL = "50 x 25; 38 x 19; A4: 3 x 8 of 70 x 35; A4: 5 x 13 of 38 x 21 gap 2.5 x 0"
"""Where the shop has set none."""

_NUMBER = r"(\d+(?:[.,]\d+)?)"
_SINGLE = re.compile(rf"^{_NUMBER}\s*[x×]\s*{_NUMBER}(?:\s*mm)?$", re.IGNORECASE)
_SHEET = re.compile(
    rf"^(A4|Letter)\s*:\s*(\d+)\s*[x×]\s*(\d+)\s+of\s+{_NUMBER}\s*[x×]\s*{_NUMBER}(?:\s*mm)?(?:\s+gap\s+{_NUMBER}\s*[x×]\s*{_NUMBER})?$",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class LabelSize:
    """``wide`` and ``high`` in mm; on a ``sheet`` (mm) in ``columns`` and ``rows`` with a ``gap``, alone where it is None."""

    name: str
    wide: float
    high: float
    sheet: tuple[float, float] | None = None
    columns: int = 1
    rows: int = 1
    gap: tuple[float, float] = (0.0, 0.0)

    @property
    def a_sheet(self) -> int:
        """Labels on a page."""
        return self.columns * self.rows

    def corner(self, place: int) -> tuple[float, float]:
        """Where the label at a ``place`` of a page has its left upper corner, mm from the page's."""
        if self.sheet is None:
            return 0.0, 0.0
        row, column = divmod(place, self.columns)
        left = (self.sheet[0] - self._across) / 2
        top = (self.sheet[1] - self._down) / 2
        return left + column * (self.wide + self.gap[0]), top + row * (self.high + self.gap[1])

    @property
    def _across(self) -> float:
        return self.columns * self.wide + (self.columns - 1) * self.gap[0]

    @property
    def _down(self) -> float:
        return self.rows * self.high + (self.rows - 1) * self.gap[1]

    def fits(self) -> bool:
        """Whether all of them are on the sheet."""
        return self.sheet is None or (self._across <= self.sheet[0] + 1e-6 and self._down <= self.sheet[1] + 1e-6)


@dataclass(frozen=True)
class Label:
    """What stands on one: the ``number`` large, ``lines`` under it, a fence mark of the ``state`` where ``marked``, a
    ``banner`` for what is held or restricted, and the square code's ``code``."""

    number: str
    lines: tuple[str, ...]
    code: str
    state: State | None = None
    marked: bool = False
    banner: str = ""


def read_sizes(text: str, field: str = tr("label sizes")) -> tuple[LabelSize, ...]:
    """The sizes in a text; the usual ones for an empty one. Raises InputRefused for one that is none or does not fit."""
    return tuple(_size(part.strip(), field) for part in (text.strip() or USUAL).split(";") if part.strip())


def check_sizes(text: str, field: str) -> tuple[str, str]:
    """The text, and how its sizes were understood. Raises InputRefused."""
    return text, "; ".join(size.name for size in read_sizes(text, field))


def _size(text: str, field: str) -> LabelSize:
    single, sheet = _SINGLE.match(text), _SHEET.match(text)
    if single is not None:
        wide, high = (_number(part) for part in single.groups())
        size = LabelSize(tr("{wide:g} × {high:g} mm", wide=wide, high=high), wide, high)
    elif sheet is not None:
        name, columns, rows, wide_text, high_text, *gaps = sheet.groups()
        wide, high = _number(wide_text), _number(high_text)
        gap = (_number(gaps[0]), _number(gaps[1])) if gaps[0] is not None else (0.0, 0.0)
        words = tr(
            "{name} sheet, {columns} × {rows} of {wide:g} × {high:g} mm",
            name=name,
            columns=columns,
            rows=rows,
            wide=wide,
            high=high,
        )
        size = LabelSize(words, wide, high, SHEETS[name.upper()], int(columns), int(rows), gap)
    else:
        raise InputRefused(
            field,
            text,
            tr('"{text}" is no size; write 50 x 25, or A4: 3 x 8 of 70 x 35, divided by semicolons', text=text[:40]),
        )
    if not (LEAST_MM <= size.wide <= MOST_MM and LEAST_MM <= size.high <= MOST_MM) or not size.a_sheet:
        raise InputRefused(
            field,
            text,
            tr(
                '"{text}": a label is {least_mm:g} to {most_mm:g} mm wide and high',
                text=text[:40],
                least_mm=LEAST_MM,
                most_mm=MOST_MM,
            ),
        )
    if not size.fits():
        raise InputRefused(field, text, tr('"{text}" does not fit on its sheet', text=text[:40]))
    return size


def _number(text: str) -> float:
    return float(text.replace(",", "."))
