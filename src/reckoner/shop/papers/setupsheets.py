"""A sheet to take where there is no screen: what to clamp, where to hook in, what to hang, where to stand, boxes to note each
try in, and a square code that brings the run back to the bench to enter them."""

from __future__ import annotations

from dataclasses import replace

from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import LeverPicture, PaperSheet, SheetTable
from reckoner.shop.papers.sheets import shop_lines
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures.papers import PAPERS
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.trips import at_rung
from reckoner.shop.procedures.weights import finding_of, hanging_cautions, next_asked, what_hangs
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.gauging import PullFacts
from reckoner.shop.setups.hanging import LeverFacts, hung_words, torque_words
from reckoner.shop.words.hanging import ANCHOR_WORDS, LEVEL_WORDS
from reckoner.shop.words.results import CAUTION_WORDS, settable
from reckoner.store.reader import Reader

LINES = 10
"""Tries that can be noted for a reading that is wanted, and no more than a page of them."""

MOST_LINES = 24


def run_code(run: RunState) -> str:
    """What the square code of a sheet holds: typed or scanned at the top line it brings the run to the bench."""
    return f"RUN {run.id} {run.tool.number}"


def setup_sheet(reader: Reader, run: RunState) -> PaperSheet:
    """The sheet of a run that is set up with weights or with a gauge. Raises ShopRefused for any other."""
    reference = run.reference
    if reference is None or reference.set_up is None:
        raise ShopRefused(tr("Set the run up with weights or a gauge first; the sheet says how."))
    shop, address, logo = shop_lines(reader)
    lever, number = reference.set_up, run.tool.number
    by_weights = isinstance(lever, LeverFacts)
    hangs = hanging_cautions(lever) if isinstance(lever, LeverFacts) else ()
    cautions = dict.fromkeys((*run.procedure.cautions, *hangs))
    points = ", ".join(settable(run.tool.kind, s.target, run.tool.unit) for s in run.found)
    return PaperSheet(
        title=tr("Set-up sheet"),
        number=tr("{number}, run {id}", number=number, id=run.id),
        shop=shop,
        address=address,
        sentence=tr("{number} at {points}: note each try, then bring this sheet back.", number=number, points=points),
        facts=_facts(run, lever),
        levers=_pictures(run, lever),
        tables=tuple(_table(run, series) for series in run.found if series.missing),
        notes=(
            _how(run) if by_weights and run.tool.kind.is_setting else "",
            " ".join(CAUTION_WORDS[c] for c in cautions),
            tr(
                "Back at the bench: scan the code, or type {code} in the top line, and enter what was noted.",
                code=run_code(run),
            ),
        ),
        signatures=((tr("Noted by"), ""), (tr("On"), "")),
        code=run_code(run),
        logo=logo,
    )


def _pictures(run: RunState, lever: LeverFacts | PullFacts) -> tuple[LeverPicture, ...]:
    """The lever as it is to be set up for each point."""
    drawn = PAPERS[run.procedure.kind].pictures(run)
    if not isinstance(lever, LeverFacts) or not drawn:
        return drawn
    aims = (settable(run.tool.kind, at.target, run.tool.unit) for at in lever.points)
    return tuple(replace(one, title=tr("For {aim}", aim=aim)) for one, aim in zip(drawn, aims, strict=True))


def _facts(run: RunState, lever: LeverFacts | PullFacts) -> tuple[tuple[str, str], ...]:
    own, tool = run.tool.own_units, run.tool
    left = sum(max(0, e.wanted - e.done) for e in run.exercise)
    first = tr(
        "{left} releases at {full}, with nothing hung",
        left=left,
        full=settable(tool.kind, run.exercise_target, tool.unit),
    )
    said = [(tr("First"), first if left else "")]
    stand = tr("Beside the lever and out of its line; feet and head out of the fall, a stop under what hangs.")
    if isinstance(lever, PullFacts):
        return (
            *said,
            (tr("Clamp"), tr("the drive in a vice, soft jaws")),
            (tr("Hook in"), tr("{hook} from the drive's centre", hook=own.length_words(lever.hook))),
            (tr("Pull"), tr("square to the lever with {gauge}, slowly", gauge=lever.gauge.number)),
            (tr("Stand"), tr("Beside the lever and out of its line; a hand behind it as it gives way.")),
        )
    grip = own.length_words(lever.grip) if lever.grip is not None else ""
    hangs = "; ".join(
        tr("{hung} makes {torque}", hung=hung_words(at, own), torque=torque_words(lever, at, tool.unit))
        for at in lever.points
    )
    hook = own.mass_words(lever.hanger) if lever.hanger else ""
    return (
        *said,
        (tr("Clamp"), ANCHOR_WORDS[lever.anchor]),
        (tr("Level"), LEVEL_WORDS[lever.levelled]),
        (tr("Grip mark"), tr("{grip} from the drive's centre", grip=grip) if grip and not lever.disc else ""),
        (tr("Hang"), hangs),
        (
            tr("Hook and rope"),
            tr("{hook}, counted in", hook=hook) if hook else tr("count as nothing: weigh them if they weigh anything"),
        ),
        (tr("Stand"), stand),
    )


def _table(run: RunState, series: SeriesState) -> SheetTable:
    """Where the tries of a point are noted."""
    tool = run.tool
    aim = settable(tool.kind, series.target, tool.unit)
    title = tr("{aim}, {missing} to find", aim=aim, missing=series.missing)
    lever = run.reference.set_up if run.reference is not None else None
    lines = min(MOST_LINES, LINES * series.missing)
    if isinstance(lever, PullFacts) or not tool.kind.is_setting:
        head = tr("The gauge showed") if isinstance(lever, PullFacts) else tr("The tool showed")
        if isinstance(lever, PullFacts):
            title = tr(
                "{title}; about {force} on the gauge",
                title=title,
                force=lever.shown_words(lever.force_for(series.target), tool.own_units),
            )
        pulls = tuple((str(i + 1), "") for i in range(series.missing))
        return SheetTable(title, (tr("Pull"), head), (0.1, 0.9), pulls, (1,))
    if finding_of(run) is TripFinding.WEIGHTS:
        return _stacks(run, series, title)
    asked = next_asked(run, series)
    varied = tr("Hook at") if finding_of(run) is TripFinding.HOOK else tr("Set to")
    first = ""
    if asked is not None:
        by_hook = finding_of(run) is TripFinding.HOOK
        first = (
            tool.own_units.length_words(asked.there.hook) if by_hook else settable(tool.kind, asked.setting, tool.unit)
        )
    rows = tuple((str(i + 1), first if i == 0 else "", "", "") for i in range(lines))
    heads = (tr("Try"), varied, tr("It clicked (c)"), tr("Silent (s)"))
    half = (0.12, 0.4, 0.24, 0.24)
    return SheetTable(title, heads, half, rows, (1, 2, 3), halved=True)


def _stacks(run: RunState, series: SeriesState, title: str) -> SheetTable:
    """Each stack by its number, from the lightest on."""
    lever, hung = what_hangs(run, series.target)
    rows = []
    for i in range(len(hung.rungs)):
        there = at_rung(hung, i)
        rows.append(
            (str(i + 1), hung_words(there, run.tool.own_units), torque_words(lever, there, run.tool.unit), "", "")
        )
    heads = (tr("Number"), tr("Hang"), tr("Makes"), tr("It clicked (c)"), tr("Silent (s)"))
    return SheetTable(title, heads, (0.1, 0.4, 0.18, 0.16, 0.16), tuple(rows), (3, 4))


def _how(run: RunState) -> str:
    tool, unit = run.tool, run.tool.unit
    lower = tr("Lower it slowly, and lift it off before the next try; a touch that did it is silent.")
    match finding_of(run):
        case TripFinding.SETTING:
            step = quantity(tool.kind.resolution, unit) if tool.kind.resolution else percent(0.01, 0)
            way = tr(
                "It clicked: set it higher. Silent: set it lower. Halve between the two, down to neighbours {step} apart; "
                "then begin again for the next reading.",
                step=step,
            )
        case TripFinding.HOOK:
            way = tr(
                "It clicked: hang it nearer the drive. Silent: further out. Halve between the two, down to {step} apart; "
                "then begin again for the next reading.",
                step=tool.own_units.length_words(0.002),
            )
        case TripFinding.WEIGHTS:
            way = tr(
                "It clicked: take a lighter stack. Silent: a heavier one, down to two that follow each other; then begin "
                "again for the next reading."
            )
    return f"{way} {lower}"
