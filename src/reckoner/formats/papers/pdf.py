"""What every PDF of the product shares: its typeface, embedded, and lengths in millimetres.

What flows on a page of ours: text, tables, the shop's picture, drawings, and the number of each page.

Pictures that are printed: whether bytes are one.
"""

from __future__ import annotations

import io
import unicodedata
from collections.abc import Callable
from enum import StrEnum
from functools import cache
from importlib.resources import as_file, files
from itertools import groupby
from typing import Any

from reckoner.formats.languages import say

MM = 72 / 25.4
"""Points a millimetre."""

A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)


class Face(StrEnum):
    """The weights of the typeface."""

    REGULAR = "Atkinson"
    STRONG = "Atkinson-SemiBold"
    BOLD = "Atkinson-Bold"
    WIDE = "NotoSans"
    """For letters that the others lack: Greek, Cyrillic, and what else is Latin."""


_FILES = {
    Face.REGULAR: "AtkinsonHyperlegibleNext_400Regular.ttf",
    Face.STRONG: "AtkinsonHyperlegibleNext_600SemiBold.ttf",
    Face.BOLD: "AtkinsonHyperlegibleNext_700Bold.ttf",
    Face.WIDE: "NotoSans_400Regular.ttf",
}


@cache
def faces() -> bool:
    """Make the typeface known to reportlab, once; it is embedded in whatever uses it."""
    from reportlab.pdfbase import pdfmetrics  # takes a while to load
    from reportlab.pdfbase.ttfonts import TTFont

    folder = files("reckoner") / "ui" / "fonts"
    for face, name in _FILES.items():
        with as_file(folder / name) as path:
            pdfmetrics.registerFont(TTFont(face.value, str(path)))
    return True


_INSTEAD = {"\u202f": "\u00a0", "\u2009": "\u00a0", "\u2032": "'", "\u00b5": "\u03bc", "\u03bd": "v", "\u2192": "to"}
"""What is written for characters that the typeface lacks."""


@cache
def _drawn(face: Face) -> frozenset[int]:
    from reportlab.pdfbase import pdfmetrics  # loads slowly

    faces()
    return frozenset(pdfmetrics.getFont(face.value).face.charToGlyph)


def drawable(words: str) -> str:
    """``words`` in characters that a typeface has: a fraction as 3/8, a letter without its mark, else a question mark."""
    made = []
    usual, wide = _drawn(Face.REGULAR), _drawn(Face.WIDE)
    for character in words:
        if ord(character) in usual or character == "\n":
            made.append(character)
        elif character in _INSTEAD:
            made.append(_INSTEAD[character])
        elif character.isalpha() and ord(character) in wide:
            made.append(character)
        else:
            plain = unicodedata.normalize("NFKD", character).replace("\u2044", "/")
            made.append("".join(c for c in plain if ord(c) in usual and not unicodedata.combining(c)) or "?")
    return "".join(made)


def parts(words: str, face: Face) -> tuple[tuple[Face, str], ...]:
    """``words`` as they are drawn: runs of characters, each with the typeface that has them.

    >>> parts("HC-1 Ключ", Face.BOLD)
    ((<Face.BOLD: 'Atkinson-Bold'>, 'HC-1 '), (<Face.WIDE: 'NotoSans'>, 'Ключ'))
    """
    usual = _drawn(face)
    runs = groupby(drawable(words), lambda c: face if ord(c) in usual or c == "\n" else Face.WIDE)
    return tuple((used, "".join(characters)) for used, characters in runs)


def width_of(words: str, face: Face, size: float) -> float:
    """How wide ``words`` are drawn at a ``size``, in its unit."""
    from reportlab.pdfbase.pdfmetrics import stringWidth  # loads slowly

    return float(sum(stringWidth(text, used.value, size) for used, text in parts(words, face)))


def write(canvas: Any, x: float, y: float, words: str, face: Face, size: float, along: float = 0.0) -> None:
    """Draw ``words`` at a ``size`` so that the point ``along`` them (0 their beginning, 0.5 the middle, 1 the end) is at
    ``x``."""
    x -= along * width_of(words, face, size)
    for used, text in parts(words, face):
        canvas.setFont(used.value, size)
        canvas.drawString(x, y, text)
        x += width_of(text, used, size)


def square_code(canvas: Any, words: str, x: float, y: float, side: float) -> None:
    """Draw the square code of ``words`` with its left lower corner at ``x``, ``y`` and its ``side`` in points, in the ink
    that is set."""
    import segno  # takes a while to load

    rows = list(segno.make(words, error="m").matrix)
    cell = side / len(rows)
    for j, row in enumerate(rows):
        for i, dark in enumerate(row):
            if dark:
                canvas.rect(x + i * cell, y + side - (j + 1) * cell, cell, cell, stroke=0, fill=1)


MARGIN, FOOT = 16 * MM, 18 * MM
INK, QUIET, LINE, INSIDE, HATCH = "#1B2730", "#5A6670", "#C3CEC6", "#0E6F6A", "#F7EBD2"
LOGO_MM = (48.0, 14.0)
"""The room for the shop's picture."""


def numbered(words: str) -> type:
    """A canvas that writes "page n of m" at the foot of each page, once it knows how many there are."""
    from reportlab.pdfgen.canvas import Canvas  # loads slowly

    class Numbered(Canvas):  # type: ignore[misc]
        def __init__(self, *args: Any, **options: Any) -> None:
            super().__init__(*args, **options)
            self._pages: list[dict[str, Any]] = []

        def showPage(self) -> None:
            self._pages.append(dict(self.__dict__))
            self._startPage()

        def save(self) -> None:
            for number, page in enumerate(self._pages, start=1):
                self.__dict__.update(page)
                self.setFillColor(QUIET)
                write(self, MARGIN, 10 * MM, words, Face.REGULAR, 8)
                page_of = say("page.foot", number=number, all=len(self._pages))
                write(self, self._pagesize[0] - MARGIN, 10 * MM, page_of, Face.REGULAR, 8, 1.0)
                super().showPage()
            super().save()

    return Numbered


def pages(
    story: Callable[[float], list[Any]],
    size_mm: tuple[float, float],
    *,
    title: str,
    author: str,
    subject: str,
    language: str = "en",
) -> bytes:
    """A PDF of what flows, its typeface embedded, its pages numbered; ``story`` is asked with the width that there is."""
    from reportlab.platypus import BaseDocTemplate, Frame, PageTemplate  # loads slowly

    faces()
    made = io.BytesIO()
    wide, high = size_mm[0] * MM, size_mm[1] * MM
    document = BaseDocTemplate(
        made, pagesize=(wide, high), leftMargin=MARGIN, rightMargin=MARGIN, topMargin=MARGIN, bottomMargin=FOOT,
        title=title, author=author, subject=subject, creator="Reckoner", lang=language,
    )  # fmt: skip
    room = wide - 2 * MARGIN
    document.addPageTemplates(PageTemplate(frames=[Frame(MARGIN, FOOT, room, high - MARGIN - FOOT, 0, 0, 0, 0)]))
    document.build(story(room), canvasmaker=numbered(title))
    return made.getvalue()


def text(words: str, size: float = 9, face: Face = Face.REGULAR, color: str = INK, *, right: bool = False) -> Any:
    """A paragraph."""
    from xml.sax.saxutils import escape  # loads slowly

    from reportlab.lib.enums import TA_LEFT, TA_RIGHT  # loads slowly
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.platypus import Paragraph

    style = ParagraphStyle(
        "",
        fontName=face.value,
        fontSize=size,
        leading=size * 1.3,
        textColor=color,
        alignment=TA_RIGHT if right else TA_LEFT,
    )
    runs = (
        escape(text) if used is face else f'<font name="{used.value}">{escape(text)}</font>'
        for used, text in parts(words, face)
    )
    return Paragraph("".join(runs).replace("\n", "<br/>"), style)


def space(points: float) -> Any:
    """Nothing, so many points high."""
    from reportlab.platypus import Spacer  # loads slowly

    return Spacer(1, points)


def table(
    rows: list[list[Any]], widths: list[float], *, lines: bool = False, head: bool = False, top: bool = False
) -> Any:
    """Cells in columns of these widths; ``head``: the first row stands on every page; ``top``: cells hang from the top."""
    from reportlab.platypus import Table  # loads slowly

    style: list[tuple[Any, ...]] = [
        ("VALIGN", (0, 0), (-1, -1), "TOP" if top else "MIDDLE"),
        ("LEFTPADDING", (0, 0), (-1, -1), 0),
        ("RIGHTPADDING", (0, 0), (-1, -1), 6),
        ("TOPPADDING", (0, 0), (-1, -1), 1.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
    ]
    if lines:
        style.append(("LINEBELOW", (0, 0), (-1, -1), 0.4, LINE))
    return Table(rows, colWidths=widths, style=style, repeatRows=1 if head else 0)


def logo(data: bytes) -> list[Any]:
    """The shop's picture, as large as there is room for."""
    if not data:
        return []
    from reportlab.platypus import Image  # loads slowly

    picture = Image(io.BytesIO(data))
    scale = min(LOGO_MM[0] * MM / picture.imageWidth, LOGO_MM[1] * MM / picture.imageHeight)
    picture.drawWidth, picture.drawHeight = picture.imageWidth * scale, picture.imageHeight * scale
    picture.hAlign = "LEFT"
    return [picture]


def flowable(width: float, height: float, draw: Callable[[Any], None]) -> Any:
    from reportlab.platypus import Flowable  # loads slowly

    class Drawn(Flowable):  # type: ignore[misc]
        def wrap(self, _wide: float, _high: float) -> tuple[float, float]:
            return width, height

        def draw(self) -> None:
            draw(self.canv)

    return Drawn()
