"""A working sheet as a PDF, on one page where it finds room."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reckoner.core.quantities.printing import ordinal
from reckoner.formats.papers.contents import Dots, PaperSheet, SheetTable
from reckoner.formats.papers.drawings import fence_picture, lever_picture, square
from reckoner.formats.papers.pdf import (
    A4_MM,
    INK,
    LINE,
    MM,
    QUIET,
    Face,
    flowable,
    logo,
    pages,
    space,
    table,
    text,
    width_of,
    write,
)

PATTERN_MM = 62.0
"""How wide and high a pattern is drawn."""

CODE_MM = 18.0
"""The side of the square code at the head."""

BOX = "#FFFFFF"

HALF = 24
"""Rows that stand under each other in each half of a page."""


def sheet_pdf(content: PaperSheet, size_mm: tuple[float, float] = A4_MM) -> bytes:
    """The sheet as a PDF, its typeface embedded."""
    title = f"{content.title} {content.number}"
    return pages(
        lambda wide: _story(content, wide), size_mm, title=title, author=content.shop, subject=content.sentence
    )


def _story(content: PaperSheet, wide: float) -> list[Any]:
    story = [*_head(content, wide), text(content.sentence, 12, Face.STRONG), space(4), *_facts(content, wide)]
    for lever in content.levers:
        story += lever_picture(lever, wide)
    if content.fences:
        rows = [[text(name, 9), fence_picture(one, wide * 0.66)] for name, one in content.fences]
        story += [table(rows, [wide * 0.3, wide * 0.7], lines=True), space(6)]
    for one in content.tables:
        story += _table(one, wide)
    story += [text(words, 8.5) for words in content.notes]
    if content.signatures:
        rows = [[text(name, 8, color=QUIET), text(words, 9.5)] for name, words in content.signatures]
        story += [space(8), table(rows, [36 * MM, wide - 36 * MM], lines=True)]
    return story


def _head(content: PaperSheet, wide: float) -> list[Any]:
    title = [text(content.title, 16, Face.BOLD), text(content.number, 10, Face.STRONG)]
    shop = [*logo(content.logo), text(content.shop, 11, Face.STRONG), text(content.address, 8.5, color=QUIET)]
    if not content.code:
        return [table([[title, shop]], [wide * 0.6, wide * 0.4]), space(6)]
    side = CODE_MM * MM
    head = [[title, shop, square(content.code, side)]]
    return [table(head, [wide * 0.5, wide * 0.5 - side - 8, side + 8]), space(6)]


def _facts(content: PaperSheet, wide: float) -> list[Any]:
    """The named lines, with the pattern at their right where there is one."""
    room = wide - (PATTERN_MM + 6) * MM if content.pattern is not None else wide
    rows = [[text(name, 8, color=QUIET), text(words, 9)] for name, words in content.facts if words]
    lines = [table(rows, [32 * MM, room - 34 * MM])] if rows else []
    if content.pattern is None:
        return [*lines, space(6)]
    return [table([[lines, _pattern(content.pattern)]], [room, PATTERN_MM * MM + 6 * MM]), space(6)]


def _table(one: SheetTable, wide: float) -> list[Any]:
    title = [text(one.title, 10, Face.STRONG)] if one.title else []
    if not one.halved:
        return [*title, _rows(one, one.rows, wide), space(6)]
    half, blocks = wide / 2 - 3 * MM, [one.rows[i : i + 2 * HALF] for i in range(0, len(one.rows), 2 * HALF)]
    middles = [(block, (len(block) + 1) // 2) for block in blocks]
    beside = [[_rows(one, block[:m], half), _rows(one, block[m:], half)] for block, m in middles]
    return [*title, *(table([pair], [wide / 2, wide / 2], top=True) for pair in beside), space(6)]


def _rows(one: SheetTable, told: Sequence[tuple[str, ...]], wide: float) -> Any:
    rows: list[list[Any]] = [[text(head, 7.5, color=QUIET) for head in one.heads]]
    widths = [wide * share for share in one.shares]
    rows += [
        [_box(widths[i] - 8) if i in one.boxes and not words else text(words, 8.5) for i, words in enumerate(cells)]
        for cells in told
    ]
    return table(rows, widths, lines=True, head=True)


def _box(wide: float) -> Any:
    """Room to write in."""

    def draw(canvas: Any) -> None:
        canvas.setStrokeColor(LINE)
        canvas.setLineWidth(0.6)
        canvas.rect(0, 0, wide, 12, stroke=1, fill=0)

    return flowable(wide, 12.5, draw)


def _pattern(dots: Dots) -> Any:
    """Each fastener with its own name in it, or its number where that is too long, and when it is its turn beside."""
    side = PATTERN_MM * MM
    radius = max(5.0, min(11.0, side / 2 / max(4.0, len(dots.places) ** 0.5 * 2.2)))
    reach = side / 2 - 2.4 * radius
    named = len(dots.places) <= MOST_NAMED
    short = all(width_of(name, Face.BOLD, radius) <= 1.8 * radius for name in dots.names)

    def draw(canvas: Any) -> None:
        middle = side / 2
        canvas.setStrokeColor(LINE)
        canvas.setLineWidth(0.8)
        if dots.ring:
            canvas.circle(middle, middle, reach, stroke=1, fill=0)
        for i, (x, y) in enumerate(dots.places):
            at = (middle + x * reach, middle - y * reach)
            canvas.setStrokeColor(INK)
            canvas.setFillColor(BOX)
            canvas.circle(*at, radius, stroke=1, fill=1)
            canvas.setFillColor(INK)
            own = dots.names[i] if short else str(i + 1)
            write(canvas, at[0], at[1] - radius * 0.34, own, Face.BOLD, radius, 0.5)
            if named:
                turn = ordinal(dots.order.index(i + 1) + 1)
                canvas.setFillColor(QUIET)
                write(canvas, at[0] + x * 1.9 * radius, at[1] - y * 1.9 * radius - 2.5, turn, Face.REGULAR, 6.5, 0.5)

    return flowable(side, side, draw)


MOST_NAMED = 60
"""Fasteners that are named in the drawing; the table names all."""
