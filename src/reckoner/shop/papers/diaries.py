"""A diary of abuse on a page: the picture of its steps, and what each says beside the baseline and the step before."""

from __future__ import annotations

from reckoner.core.history.comparison import half_width
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import limit, quantity, reading_decimals
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import FencePicture, PaperSheet, SheetTable
from reckoner.shop.papers.sheets import shop_lines
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs.diary import DiaryStep, diary_of
from reckoner.shop.runs.judging import beside_first, margin_of
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.diary import comparison_words, diary_sentence
from reckoner.shop.words.results import came_words, settable
from reckoner.store.reader import Reader


def diary_paper(reader: Reader, run: RunState) -> PaperSheet:
    """The page of a diary. Raises ShopRefused for a run of another kind."""
    if not run.policy.diary:
        raise ShopRefused(tr("Only a diary of abuse has such a page."))
    shop, address, logo = shop_lines(reader)
    steps = diary_of(run)
    signature = run.signature
    signed = f"{signature.by}, {day_words(signature.on)}" if signature is not None else ""
    return PaperSheet(
        title=tr("Diary of abuse"),
        number=tr("{number}, run {id}", number=run.tool.number, id=run.id),
        shop=shop,
        address=address,
        sentence=f"{diary_sentence(run)}.",
        facts=(
            (tr("Tool"), f"{run.tool.maker} {run.tool.model}, {run.tool.range_text}"),
            (tr("At"), settable(run.tool.kind, run.found[0].target, run.tool.unit)),
            (tr("Against"), run.reference.number if run.reference is not None else ""),
            (tr("Begun"), f"{day_words(run.opened)}, {run.opened_by}"),
        ),
        fences=tuple((step.name, _fence(run, step)) for step in steps if len(step.series.readings) > 1),
        tables=(_table(run, steps),),
        notes=(
            came_words(run),
            tr(
                "Each tick is a reading beside the mean of the baseline, the mark their mean with its 95 %; the posts stand "
                "at {margin}, a quarter of the limit: within them it does not matter. Intervals are Welch's, 95 %.",
                margin=limit(margin_of(run)),
            ),
            tr("It decides nothing of the tool: a full run does, before it is used again."),
        ),
        signatures=((tr("Signed by"), signed),),
        logo=logo,
    )


def _fence(run: RunState, step: DiaryStep) -> FencePicture:
    beside = beside_first(run, step.series)
    return FencePicture(margin_of(run), 0.0, beside, sum(beside) / len(beside), half_width(step.series.readings))


def _table(run: RunState, steps: tuple[DiaryStep, ...]) -> SheetTable:
    rows = []
    for i, step in enumerate(steps):
        readings = step.series.readings
        decimals = reading_decimals(run.reference.resolution if run.reference is not None else 0.0, run.tool.unit)
        mean = quantity(sum(readings) / len(readings), run.tool.unit, decimals) if readings else ""
        rows.append(
            (
                str(i),
                step.name,
                str(len(readings)),
                mean,
                comparison_words(step.beside_baseline, tr("the baseline")) if step.beside_baseline else "",
                comparison_words(step.beside_last, tr("the step before")) if step.beside_last else "",
            )
        )
    heads = (
        "",
        tr("What was done"),
        tr("Readings"),
        tr("Mean"),
        tr("Beside the baseline"),
        tr("Beside the step before"),
    )
    return SheetTable("", heads, (0.04, 0.2, 0.09, 0.11, 0.28, 0.28), tuple(rows))
