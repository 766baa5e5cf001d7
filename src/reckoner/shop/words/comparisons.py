"""Words about comparisons: what two sides say of each other, in a sentence and as a derivation with its values.

What a run says, whatever its kind: the sentence on the bench, and the one that is kept with the signature.
"""

from __future__ import annotations

import math

from reckoner.core.decision.verdict import Verdict
from reckoner.core.errors import InputRefused
from reckoner.core.history.comparison import ComparedChange, Comparison, Sides
from reckoner.core.quantities.printing import fixed, limit, number, percent
from reckoner.core.translation import tr
from reckoner.shop.procedures.papers import DerivationLine
from reckoner.shop.runs.diary import diary_of
from reckoner.shop.runs.judging import comparisons, judged, margin_of, sides_held
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import room_drifted
from reckoner.shop.words.diary import diary_sentence
from reckoner.shop.words.effects import characterised_sentence, place_words
from reckoner.shop.words.results import (
    came_words,
    comparison_sentence,
    one_sided_words,
    run_sentence,
    settable,
    torque_figure,
)

NOT_YET = tr("Each side wants two readings before anything can be said.")


def sides_sentence(run: RunState) -> str:
    """What was found, such as "With the adapter 1.141 times bare (1.138 to 1.144), computed 1.1406: as computed"."""
    try:
        found = sides_held(run)
    except InputRefused as refusal:
        return tr("Nothing is concluded: {reason}", reason=refusal.reason)
    if found is None or run.sides is None:
        return NOT_YET
    one, two = run.sides.first.name, run.sides.second.name
    if found.drifted and found.drift is not None:
        d = found.drift
        return tr(
            "The two series of “{one}” differ by {difference} ({interval}), more than they scatter: "
            "nothing is concluded. Look for what moved, and take them again",
            one=one,
            difference=percent(abs(d.difference), 1),
            interval=_interval(d.low_95, d.high_95),
        )
    return f"{_said(run, found, one, two)}: {_verdict(run, found)}"


def _said(run: RunState, found: Sides, one: str, two: str) -> str:
    computed = run.sides.expected(run.tool) if run.sides is not None else None
    if computed is not None and computed != 1:
        low, high = fixed(found.low_95, 3), fixed(found.high_95, 3)
        return tr(
            "{upper}{two} gives {ratio} times {one} ({low} to {high}), computed {computed}",
            upper=two[:1].upper(),
            two=two[1:],
            ratio=fixed(found.ratio, 3),
            one=one,
            low=low,
            high=high,
            computed=fixed(computed, 4),
        )
    off = found.ratio - 1
    if round(abs(off), 3) == 0:
        return tr(
            "{upper}{two} reads the same as {one} ({interval})",
            upper=two[:1].upper(),
            two=two[1:],
            one=one,
            interval=_interval(found.low_95 - 1, found.high_95 - 1),
        )
    way = tr("higher") if off > 0 else tr("lower")
    interval = _interval(found.low_95 - 1, found.high_95 - 1)
    return tr(
        "{upper}{two} reads {off} {way} than {one} ({interval})",
        upper=two[:1].upper(),
        two=two[1:],
        off=percent(abs(off), 1),
        way=way,
        one=one,
        interval=interval,
    )


def _verdict(run: RunState, found: Sides) -> str:
    computed = run.sides.expected(run.tool) if run.sides is not None else None
    against = computed is not None and computed != 1
    match found.change:
        case ComparedChange.UNCHANGED:
            return tr("as computed") if against else tr("no difference that matters")
        case ComparedChange.CHANGED:
            return (
                tr("{difference} off what is computed", difference=percent(abs(found.difference), 1))
                if against
                else tr("different")
            )
        case ComparedChange.CANNOT_TELL:
            return tr(
                "cannot tell; {readings_needed} readings on each side would", readings_needed=found.readings_needed
            )


def _interval(low: float, high: float) -> str:
    return tr("{low} to {high}", low=percent(low, 1, sign=True), high=percent(high, 1, sign=True))


def scatter_words(run: RunState) -> str:
    """How far each side scatters, such as "Scatter: bare 0.21 %, with the adapter 0.35 %"; empty before it is known."""
    try:
        found = sides_held(run)
    except InputRefused:
        found = None
    if found is None or run.sides is None:
        return ""
    (one, two), (a, b) = (run.sides.first.name, run.sides.second.name), found.spreads
    return tr("Scatter: {one} {a}, {two} {b}", one=one, a=percent(a, 2), two=two, b=percent(b, 2))


def side_name(run: RunState, place: int) -> str:
    """Such as "Bare", "With the adapter" or "Bare again"."""
    if run.sides is None:
        return ""
    name = run.sides.places[place].name
    name = f"{name[:1].upper()}{name[1:]}"
    return tr("{name} again", name=name) if place == 2 else name


def place_name(run: RunState, series: SeriesState) -> str:
    """What a series is called that is held against the run's first: its side, or what was done before it; empty elsewhere."""
    if series.place is None:
        return ""
    if run.policy.diary:
        return next(step.name for step in diary_of(run) if step.series is series)
    return side_name(run, series.place) if run.sides is not None else ""


def sides_derivation(run: RunState) -> tuple[DerivationLine, ...]:
    """Every step from the readings to the conclusion, with the run's own values."""
    unit, sides = run.tool.unit, run.sides
    try:
        found = sides_held(run)
    except InputRefused:
        return ()
    if found is None or sides is None:
        return ()
    lines, means = [], []
    for series in run.found:
        readings = series.readings
        mean = sum(readings) / len(readings)
        means.append((mean, len(readings)))
        spread = math.sqrt(sum((r - mean) ** 2 for r in readings) / max(1, len(readings) - 1))
        lines.append(
            DerivationLine(
                side_name(run, series.place or 0),
                tr("mean; s, n − 1"),
                ", ".join(torque_figure(run, r) for r in readings),
                f"{number(unit.from_si(mean))} {unit.symbol}; s {number(unit.from_si(spread))}",
            )
        )
    if found.drift is not None:
        lines.append(_held_against_itself(run, found.drift, drifted=found.drifted))
    both = [m for place, m in enumerate(means) if place != 1]
    a = sum(mean * n for mean, n in both) / sum(n for _, n in both)
    b = means[1][0]
    lines.append(
        DerivationLine(
            tr("The ratio"),
            "R = B̄ / Ā",
            f"{number(unit.from_si(b))} / {number(unit.from_si(a))}",
            fixed(found.ratio, 5),
        )
    )
    lines.append(
        DerivationLine(
            tr("Its interval"),
            tr("Fieller's, 95 %"),
            "",
            tr("{low_95} to {high_95}", low_95=fixed(found.low_95, 5), high_95=fixed(found.high_95, 5)),
        )
    )
    lines += _computed(run)
    matters = limit(margin_of(run))
    lines.append(
        DerivationLine(
            tr("Held against what it should be"),
            tr("R / f − 1, inside ± a quarter of the limit"),
            tr(
                "{low_95} to {high_95} against {matters}",
                low_95=percent(found.low_95 / found.expected - 1, 2, sign=True),
                high_95=percent(found.high_95 / found.expected - 1, 2, sign=True),
                matters=matters,
            ),
            percent(found.difference, 2, sign=True),
        )
    )
    return tuple(lines)


def _held_against_itself(run: RunState, moved: Comparison, *, drifted: bool) -> DerivationLine:
    low, high = percent(moved.low_95, 2, sign=True), percent(moved.high_95, 2, sign=True)
    return DerivationLine(
        tr("{side_name}, held against itself", side_name=side_name(run, 0)),
        tr("Welch's interval of the difference, 95 %"),
        tr("{low_95} to {high_95}", low_95=low, high_95=high),
        tr("moved: it leaves 0 out") if drifted else tr("did not move: it holds 0"),
    )


def _computed(run: RunState) -> list[DerivationLine]:
    sides, tool = run.sides, run.tool
    computed = sides.expected(tool) if sides is not None else None
    if sides is None or computed is None or tool.lever is None or computed == 1.0:
        return []
    length, pivot = fixed(tool.lever * 1000, 0), fixed(tool.pivot * 1000, 0)
    told = []
    for side in (sides.first, sides.second):
        hand = fixed((side.hand or tool.lever) * 1000, 0)
        reach = f" + {fixed(side.adapter * 1000, 0)}·cos {fixed(math.degrees(side.angle), 0)}°" if side.adapter else ""
        told.append(f"({length} − {pivot})/{length} · ({hand}{reach})/({hand} − {pivot})")
    return [
        DerivationLine(
            tr("Computed, lengths in mm"),
            tr("f = (L − p)/L · (h + Σ e·cos φ)/(h − p), the second over the first"),
            f"[{told[1]}] / [{told[0]}]",
            fixed(computed, 5),
        )
    ]


def reading_beside(run: RunState, series: SeriesState, fraction: float) -> str:
    """Of one reading, such as "With the adapter: +0.12 % from what it should be"."""
    of = tr("what it should be") if series.place else tr("the mean so far")
    if run.policy.diary and series.place:
        of = tr("the baseline")
    return tr(
        "{side_name}: {fraction} from {of}",
        side_name=place_name(run, series),
        fraction=percent(fraction, 2, sign=True),
        of=of,
    )


def saying(run: RunState, found: Verdict) -> str:
    """What it measured, what its two sides say of each other, or how its worst point stands."""
    if run.policy.measures:
        return characterised_sentence(run)
    if run.policy.contrasts:
        return sides_sentence(run)
    if run.policy.diary:
        return diary_sentence(run)
    return run_sentence(run.tool, found)


def concluded_sentence(run: RunState, found: Verdict) -> str:
    """What it says at its signature: the same, after what changed since the last full run."""
    told = comparisons(run) if run.policy.compares else ()
    said = saying(run, found)
    return f"{comparison_sentence(told[0][2], told[0][1].on)}; {said}" if told else said


def beside_words(run: RunState) -> str:
    """What is told beside a verdict: as found beside as left, before beside after, the room, what was planned otherwise."""
    said = []
    as_found = judged(run).found if run.left else None
    if as_found is not None:
        said.append(tr("As found: {run_sentence}. Above: as left.", run_sentence=run_sentence(run.tool, as_found)))
    if came := came_words(run):
        said.append(f"{came}.")
    said += [f"{words}." for s in run.series if (words := one_sided_words(run, s))]
    if run.policy.compares:
        told = comparisons(run)
        if run.event:
            said.append(tr("After: {event}.", event=run.event))
        if not told:
            said.append(tr("There is no signed full run at this point to compare with."))
        several = len(told) > 1
        said += [
            f"{comparison_sentence(found, before.on, series_name(run, series) if several else '')}."
            for series, before, found in told
        ]
    if room_drifted(run) and run.room is not None:
        said.append(
            tr(
                "The room drifted by {drift} during the run; {title} allows {drift_2}.",
                drift=run.tool.own_units.degrees_words(run.room.drift, 1),
                title=run.rules.title,
                drift_2=run.tool.own_units.degrees_words(run.rules.room.drift, 1),
            )
        )
    if run.plan.note:
        said.append(tr("Otherwise than proposed: {note}.", note=run.plan.note))
    return " ".join(said)


def series_name(run: RunState, series: SeriesState) -> str:
    """A series by its place, or by its point, with its direction where there are two."""
    if series.effect is not None and series.place is not None:
        return place_words(series.effect, series.place).capitalize()
    if beside := place_name(run, series):
        return beside
    name = settable(run.tool.kind, series.target, run.tool.unit)
    return f"{name} {series.direction}" if len(run.tool.directions) > 1 else name
