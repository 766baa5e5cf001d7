"""A certificate as a PDF: the whole on one page where it finds room, budgets and drawings on those after it."""

from __future__ import annotations

from typing import Any

from reportlab.platypus import KeepTogether, PageBreak

from reckoner.core.quantities.printing import percent
from reckoner.formats.languages import in_language, say
from reckoner.formats.papers.contents import BudgetTable, CertificatePaper, PhaseTable
from reckoner.formats.papers.drawings import fence_picture, lever_picture, square
from reckoner.formats.papers.pdf import (
    A4_MM,
    INSIDE,
    MM,
    QUIET,
    Face,
    flowable,
    logo,
    pages,
    space,
    table,
    text,
)

HEADS = ("point", "readings", "mean", "deviation", "worth", "limit")
"""The columns of a table of points, and after them the fence."""


def certificate_pdf(content: CertificatePaper, size_mm: tuple[float, float] = A4_MM) -> bytes:
    """The certificate as a PDF, its typeface embedded, its text to be selected."""
    title = f"{content.title} {content.number}"
    with in_language(content.language):
        return pages(
            lambda wide: _story(content, wide), size_mm,
            title=title, author=content.shop, subject=content.statement, language=content.language,
        )  # fmt: skip


def _story(content: CertificatePaper, wide: float) -> list[Any]:
    story = [*_head(content, wide), *_blocks(content, wide), *_said(content)]
    for phase in content.phases:
        story += _phase(phase, wide)
    story += _foot(content, wide)
    if content.budgets or content.levers:
        story.append(PageBreak())
        for budget in content.budgets:
            story += _budget(budget, wide)
        for lever in content.levers:
            story += lever_picture(lever, wide)
    if content.end:
        story.append(text(content.end, 7.5, color=QUIET))
    return story


def _head(content: CertificatePaper, wide: float) -> list[Any]:
    shop = [*logo(content.logo), text(content.shop, 11, Face.STRONG), text(content.address, 8.5, color=QUIET)]
    title = [text(content.title, 16, Face.BOLD), text(content.number, 10, Face.STRONG)]
    code = square(content.mark, 20 * MM)
    return [table([[title, shop, code]], [wide * 0.46, wide - wide * 0.46 - 21 * MM, 21 * MM]), space(8)]


def _blocks(content: CertificatePaper, wide: float) -> list[Any]:
    """The groups of named lines, two beside each other."""
    made = []
    for title, lines in content.blocks:
        rows = [[text(name, 8, color=QUIET), text(words, 8.5)] for name, words in lines if words]
        made.append([text(title, 9.5, Face.STRONG), table(rows, [24 * MM, wide / 2 - 28 * MM])] if rows else [])
    pairs = [made[i : i + 2] + [[]] * (2 - len(made[i : i + 2])) for i in range(0, len(made), 2)]
    return [table(pairs, [wide / 2, wide / 2], top=True), space(6)]


def _said(content: CertificatePaper) -> list[Any]:
    return [text(content.statement, 12, Face.STRONG), space(2), text(content.formal, 9), space(6)]


def _phase(phase: PhaseTable, wide: float) -> list[Any]:
    share = (0.12, 0.25, 0.09, 0.10, 0.15, 0.08, 0.21)
    rows: list[list[Any]] = [
        [*(text(say(f"table.{head}"), 7.5, color=QUIET, right=head != "readings") for head in HEADS), ""]
    ]
    for row in phase.rows:
        cells = (row.target, row.readings, row.mean, row.deviation, row.uncertainty, row.limit)
        rows.append(
            [
                *(text(words, 8.5, right=i != 1) for i, words in enumerate(cells)),
                [fence_picture(row.fence, wide * 0.19), text(row.state, 7, color=QUIET)],
            ]
        )
    said = [text(phase.said, 8.5)] if phase.said else []
    points = table(rows, [wide * part for part in share], lines=True, head=True)
    return [KeepTogether([text(phase.title, 10, Face.STRONG), *said, points]), space(5)]


def _foot(content: CertificatePaper, wide: float) -> list[Any]:
    signed = [[text(name, 8, color=QUIET), text(words, 9.5)] for name, words in content.signatures]
    made = [*(text(words, 8.5) for words in content.remarks), space(4), table(signed, [32 * MM, wide - 32 * MM])]
    made += [space(4), *(text(words, 7.5, color=QUIET) for words in content.notes)]
    return [KeepTogether(made)]


def _budget(budget: BudgetTable, wide: float) -> list[Any]:
    rows = [
        [
            text(line.name, 8.5),
            text(line.value, 8.5, right=True),
            _bar(line.share, wide * 0.4),
            text(percent(line.share, 0), 8),
        ]
        for line in budget.lines
    ]
    shares = table(rows, [wide * 0.32, wide * 0.14, wide * 0.42, wide * 0.12], lines=True)
    return [KeepTogether([text(budget.title, 10, Face.STRONG), shares, text(budget.total, 8.5)]), space(8)]


def _bar(share: float, wide: float) -> Any:
    def draw(canvas: Any) -> None:
        canvas.setFillColor(INSIDE)
        canvas.rect(0, 1, max(0.3, share * wide), 5, stroke=0, fill=1)

    return flowable(wide, 7, draw)
