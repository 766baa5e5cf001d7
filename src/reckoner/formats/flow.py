"""What flows on a page of ours: text, tables, the shop's picture, drawings, and the number of each page."""

from __future__ import annotations

import io
from collections.abc import Callable
from typing import Any

from reckoner.formats.languages import say
from reckoner.formats.pdf import MM, Face, faces, parts, write

MARGIN, FOOT = 16 * MM, 18 * MM
INK, QUIET, LINE, INSIDE, HATCH = "#1B2730", "#5A6670", "#C3CEC6", "#0E6F6A", "#F7EBD2"
LOGO_MM = (48.0, 14.0)
"""The room for the shop's picture."""


def numbered(words: str) -> type:
    """A canvas that writes "page n of m" at the foot of each page, once it knows how many there are."""
    from reportlab.pdfgen.canvas import Canvas

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
    from reportlab.platypus import BaseDocTemplate, Frame, PageTemplate

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
    from xml.sax.saxutils import escape

    from reportlab.lib.enums import TA_LEFT, TA_RIGHT
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
    from reportlab.platypus import Spacer

    return Spacer(1, points)


def table(
    rows: list[list[Any]], widths: list[float], *, lines: bool = False, head: bool = False, top: bool = False
) -> Any:
    """Cells in columns of these widths; ``head``: the first row stands on every page; ``top``: cells hang from the top."""
    from reportlab.platypus import Table

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
    from reportlab.platypus import Image

    picture = Image(io.BytesIO(data))
    scale = min(LOGO_MM[0] * MM / picture.imageWidth, LOGO_MM[1] * MM / picture.imageHeight)
    picture.drawWidth, picture.drawHeight = picture.imageWidth * scale, picture.imageHeight * scale
    picture.hAlign = "LEFT"
    return [picture]


def flowable(width: float, height: float, draw: Callable[[Any], None]) -> Any:
    from reportlab.platypus import Flowable

    class Drawn(Flowable):  # type: ignore[misc]
        def wrap(self, _wide: float, _high: float) -> tuple[float, float]:
            return width, height

        def draw(self) -> None:
            draw(self.canv)

    return Drawn()
