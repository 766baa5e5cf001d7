"""What every PDF of the product shares: its typeface, embedded, and lengths in millimetres."""

from __future__ import annotations

from enum import StrEnum
from functools import cache
from importlib.resources import as_file, files

MM = 72 / 25.4
"""Points a millimetre."""

A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)


class Face(StrEnum):
    """The weights of the typeface."""

    REGULAR = "Atkinson"
    STRONG = "Atkinson-SemiBold"
    BOLD = "Atkinson-Bold"


_FILES = {
    Face.REGULAR: "AtkinsonHyperlegibleNext_400Regular.ttf",
    Face.STRONG: "AtkinsonHyperlegibleNext_600SemiBold.ttf",
    Face.BOLD: "AtkinsonHyperlegibleNext_700Bold.ttf",
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
