"""What every PDF of the product shares: its typeface, embedded, and lengths in millimetres."""

from __future__ import annotations

import unicodedata
from enum import StrEnum
from functools import cache
from importlib.resources import as_file, files
from itertools import groupby
from typing import Any

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
    from reportlab.pdfbase import pdfmetrics

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
    from reportlab.pdfbase.pdfmetrics import stringWidth

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
