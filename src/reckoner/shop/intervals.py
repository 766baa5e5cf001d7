"""How long until a tool's next full run: by which school, worked out from what, and why.

``basis``     what a tool's next interval is found from: the school of the tool, its model or the shop, and its history
``proposed``  the interval that a school proposes on that basis, with its reason; pure

The school is the tool's own, else its model's, else the shop's. What a run's interval is found from is kept with the run.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

from reckoner.core.errors import InputRefused
from reckoner.core.history.interval import LONGEST, IntervalOutcome, Reliability, School, reliability, staircase
from reckoner.core.quantities.printing import fixed, percent
from reckoner.core.translation import tr
from reckoner.store.reader import Reader
from reckoner.store.terms import term
from reckoner.store.times import day_at, day_of

TARGET = 0.95
"""The share that has to be inside still, where the shop says nothing else."""

DAYS_A_MONTH = 365.25 / 12

FEWEST = 10
"""Results of a group from which a reliability target says anything at all."""

SCHOOL_WORDS = {
    School.FIXED: tr("fixed: always the same months"),
    School.STAIRCASE: tr("staircase: longer after good results, shorter after bad ones"),
    School.RELIABILITY: tr("reliability: as long as enough of its model stay inside"),
}
"""The schools, to choose from."""


SHORT_WORDS = {
    School.FIXED: tr("Fixed months"),
    School.STAIRCASE: tr("Staircase"),
    School.RELIABILITY: tr("Reliability target"),
}


@dataclass(frozen=True)
class IntervalBasis:
    """What the next interval is found from: ``months`` that are fixed, ``now`` those of the interval that ends, and how the
    tools of its model were found, ``outcomes`` (only where the school asks for them) against ``target``."""

    school: School
    months: int
    now: int
    target: float = TARGET
    outcomes: tuple[IntervalOutcome, ...] = ()


@dataclass(frozen=True)
class Interval:
    """An interval in whole months, and ``why``; empty where it is fixed."""

    school: School
    months: int
    why: str = ""


def proposed(basis: IntervalBasis, used: float | None = None) -> Interval:
    """The interval after a result that used up a part ``used`` of its limit (over 1: outside; None: nothing found now).

    Staircase and reliability as ``core.history.interval`` says, in whole months rounded down, one at least; a reliability
    target is kept to what was seen, ``LONGEST`` months at most, and where it says nothing the fixed months hold."""
    match basis.school:
        case School.STAIRCASE if used is not None:
            return _by_staircase(basis, used)
        case School.RELIABILITY:
            return _by_reliability(basis)
        case _:
            return Interval(School.FIXED, basis.months)


def _by_staircase(basis: IntervalBasis, used: float) -> Interval:
    months = max(1, int(staircase(basis.now, used, 1.0) + 1e-9))
    if used > 1:
        found = tr("found outside")
    elif used <= 0.5:
        found = tr("found within half of its limit")
    else:
        found = tr("found inside, beyond half of its limit")
    step = (
        tr("{now} months stay {months}", now=basis.now, months=months)
        if months == basis.now
        else tr("{now} months become {months}", now=basis.now, months=months)
    )
    return Interval(School.STAIRCASE, months, tr("staircase: {found}, so {step}", found=found, step=step))


def _by_reliability(basis: IntervalBasis) -> Interval:
    share = percent(basis.target, 0)
    count = sum(o.count for o in basis.outcomes)
    if count < FEWEST:
        why = tr(
            "reliability: {count} results of its model are too few to say, so {months} months as fixed",
            count=count,
            months=basis.months,
        )
        return Interval(School.RELIABILITY, basis.months, why)
    try:
        fitted = reliability(basis.outcomes, basis.target)
    except InputRefused as refusal:
        why = tr("reliability: {reason}, so {months} months as fixed", reason=refusal.reason, months=basis.months)
        return Interval(School.RELIABILITY, basis.months, why)
    months = max(1, int(min(fitted.proposal, LONGEST)))
    return Interval(
        School.RELIABILITY,
        months,
        tr("reliability: {share} inside for {fit_words}", share=share, fit_words=_fit_words(fitted)),
    )


def _fit_words(fitted: Reliability) -> str:
    low = fixed(fitted.low_months, 1)
    bounds = (
        tr("{low} to {high} months", low=low, high=fixed(fitted.high_months, 1))
        if fitted.high_months < 1200
        else tr("{low} to any number of months", low=low)
    )
    return tr(
        "{months} months by {results} results of its model (90 % bounds {bounds})",
        months=fixed(fitted.months, 1),
        results=fitted.results,
        bounds=bounds,
    ) + ("" if fitted.proposal == fitted.months else tr("; the lower bound counts until there are 100"))


_SCHOOL = """
SELECT t.interval_school AS own, m.interval_school AS of_model, t.model_id FROM tool t JOIN tool_model m ON m.id = t.model_id
WHERE t.id = :tool
"""

_SHOP = "SELECT interval_school AS school, interval_target AS target FROM shop ORDER BY id LIMIT 1"

_ENDS = """
SELECT g.at, g.due FROM signature g JOIN run u ON u.id = g.run_id
WHERE u.tool_id = :tool AND g.due IS NOT NULL AND g.due_reason = 'calendar' ORDER BY g.sequence DESC LIMIT 1
"""

_FOUND = """
SELECT u.tool_id, g.at, MIN(CASE WHEN r.state IN ('inside', 'inside-near') THEN 1 ELSE 0 END) AS inside
FROM signature g JOIN run u ON u.id = g.run_id JOIN tool t ON t.id = u.tool_id
  JOIN point_result r ON r.signature_id = g.id JOIN series s ON s.id = r.series_id
WHERE t.model_id = :model AND u.kind = 'full' AND s.phase = 'found' AND r.state NOT IN ('undecided', 'compared')
  AND u.id NOT IN (SELECT a.amends_id FROM run a JOIN signature b ON b.run_id = a.id WHERE a.amends_id IS NOT NULL)
GROUP BY u.tool_id, g.id, g.at, g.sequence ORDER BY u.tool_id, g.sequence
"""
"""The full runs of a model's tools, as found, but for those that an amendment has replaced."""


def whose_school(reader: Reader, tool_id: int) -> tuple[School, str]:
    """The school that holds for a tool, and whose it is."""
    row, shop = reader.row(_SCHOOL, tool=tool_id), reader.row(_SHOP)
    for said, whose in (
        (row.own if row is not None else "", tr("its own")),
        (row.of_model if row is not None else "", tr("as its model")),
        (shop.school if shop is not None else "", tr("as the shop does")),
    ):
        if said:
            return term(School, said), whose
    return School.FIXED, tr("as the shop does")


def basis(reader: Reader, tool_id: int, months: int, school: School | None = None) -> IntervalBasis:
    """What a tool's next interval is found from, where ``months`` are fixed for it; ``school`` only to see what another one
    would say."""
    row = reader.row(_SCHOOL, tool=tool_id)
    shop = reader.row(_SHOP)
    school = school or whose_school(reader, tool_id)[0]
    found = IntervalBasis(school, months, months, shop.target if shop is not None else TARGET)
    if school is School.STAIRCASE:
        return replace(found, now=_last_months(reader.row(_ENDS, tool=tool_id), months))
    if school is School.RELIABILITY:
        return replace(found, outcomes=_outcomes(reader.rows(_FOUND, model=row.model_id if row is not None else 0)))
    return found


def _last_months(row: Any | None, months: int) -> int:
    """The months of the interval that was set last; those that are fixed where there was none."""
    on, due = (day_at(row.at), day_of(row.due)) if row is not None else (None, None)
    if on is None or due is None or due <= on:
        return months
    return max(1, round((due - on).days / DAYS_A_MONTH))


def _outcomes(rows: list[Any]) -> tuple[IntervalOutcome, ...]:
    """How the tools were found at the end of each interval, alike ones counted together: ages in tenths of a month."""
    counts: dict[tuple[float, bool], int] = {}
    before: tuple[int, Any] = (0, None)
    for row in rows:
        on = day_at(row.at)
        if row.tool_id == before[0] and on is not None and before[1] is not None and on > before[1]:
            key = (max(0.1, round((on - before[1]).days / DAYS_A_MONTH, 1)), bool(row.inside))
            counts[key] = counts.get(key, 0) + 1
        before = (row.tool_id, on)
    return tuple(IntervalOutcome(months, inside, count) for (months, inside), count in sorted(counts.items()))
