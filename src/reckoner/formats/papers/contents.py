"""What stands on a certificate, as plain values: the shop fills it, ``certificate_pdf`` draws it.

Labels at their true size: what stands on one, and the sizes that a shop has.

A size is ``50 x 25`` (mm, one label a page, for a label printer) or ``A4: 3 x 8 of 70 x 35`` (columns x rows in the middle of
a sheet), with ``gap 2.5 x 0`` between them where there is one. Sizes are divided by semicolons.

What stands on a working sheet (a review, a job card), as plain values: the shop fills it, ``sheets_pdf`` draws it.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.translation import tr
from reckoner.formats.papers.pdf import A4_MM, LETTER_MM


@dataclass(frozen=True)
class FencePicture:
    """A deviation between its posts; fractions. ``whisker`` is W; ``ticks`` are the readings."""

    limit: float
    near: float
    ticks: tuple[float, ...]
    mean: float
    whisker: float


@dataclass(frozen=True)
class PointRow:
    """One point: words and figures as they stand in the table, and its fence."""

    target: str
    readings: str
    mean: str
    deviation: str
    uncertainty: str
    limit: str
    state: str
    fence: FencePicture


@dataclass(frozen=True)
class PhaseTable:
    """As it came, as found or as left: a ``title``, its points, and what is said of it."""

    title: str
    rows: tuple[PointRow, ...]
    said: str = ""


@dataclass(frozen=True)
class BudgetLine:
    """One component of a budget: its name, its relative standard uncertainty in words, and its share, a fraction."""

    name: str
    value: str
    share: float


@dataclass(frozen=True)
class BudgetTable:
    """A point's budget."""

    title: str
    lines: tuple[BudgetLine, ...]
    total: str


@dataclass(frozen=True)
class LeverPicture:
    """What hung on the lever, m and words: drawn true to scale."""

    title: str
    grip: float
    pivot: float
    hook: float
    balance: float | None
    weights: tuple[str, ...]
    words: str
    units: OwnUnits = METRIC


@dataclass(frozen=True)
class CertificatePaper:
    """All of it. ``blocks`` are named lines in groups: the tool, the reference, the method; ``notes`` say what this paper is
    and is not; ``mark`` is what the square code holds, ``logo`` a picture (PNG, JPEG) for the head. ``language`` is that of
    its words, ``end`` what stands under the last of it."""

    title: str
    number: str
    shop: str
    address: str
    blocks: tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
    statement: str
    formal: str
    phases: tuple[PhaseTable, ...]
    remarks: tuple[str, ...]
    signatures: tuple[tuple[str, str], ...]
    notes: tuple[str, ...]
    mark: str
    budgets: tuple[BudgetTable, ...] = ()
    levers: tuple[LeverPicture, ...] = field(default=())
    logo: bytes = b""
    language: str = "en"
    end: str = ""


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


@dataclass(frozen=True)
class SheetTable:
    """A table: ``heads`` with their shares of the width, and its rows; ``boxes`` are the columns to be written in by hand.
    ``halved``: in two halves beside each other."""

    title: str
    heads: tuple[str, ...]
    shares: tuple[float, ...]
    rows: tuple[tuple[str, ...], ...]
    boxes: tuple[int, ...] = ()
    halved: bool = False


@dataclass(frozen=True)
class Dots:
    """A pattern of fasteners: where each stands, from −1 to 1 across and down, its ``name``, and its ``place`` in the order
    of tightening (from 1)."""

    places: tuple[tuple[float, float], ...]
    names: tuple[str, ...]
    order: tuple[int, ...]
    ring: bool = False


@dataclass(frozen=True)
class PaperSheet:
    """``title`` and ``number`` at its head beside the shop; the ``sentence`` first, then named ``facts``, a pattern, tables,
    notes, and what is signed; ``levers`` and named ``fences`` are drawn beneath the facts, ``code``
    stands at the head as a square code."""

    title: str
    number: str
    shop: str
    address: str
    sentence: str
    facts: tuple[tuple[str, str], ...] = ()
    tables: tuple[SheetTable, ...] = ()
    pattern: Dots | None = None
    notes: tuple[str, ...] = ()
    signatures: tuple[tuple[str, str], ...] = ()
    levers: tuple[LeverPicture, ...] = ()
    fences: tuple[tuple[str, FencePicture], ...] = ()
    code: str = ""
    logo: bytes = field(default=b"", repr=False)
