"""What a run found: each verdict worked out once for a state of the run and a day."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

from reckoner.core.decision.conformity import state_of
from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointInput, PointResult, Verdict, verdict
from reckoner.core.history.comparison import Comparison, Sides, compare, hold_sides
from reckoner.core.uncertainty.budget import Observations
from reckoner.shop.procedure import Distrust
from reckoner.shop.runs.records import NOTHING, EarlierSeries, ObservationState, SeriesState
from reckoner.shop.runs.state import RunState


@dataclass(frozen=True, eq=False)
class Judgement:
    """The judgement of ``run`` on a day. An amendment is judged as of the day it amends."""

    run: RunState
    _points: dict[int, PointResult | None] = field(default_factory=dict, repr=False)

    @cached_property
    def distrust(self) -> Distrust | None:
        """Why nothing may be decided; None when it may."""
        found = self.run.procedure.distrust(self.run, self.run.day)
        unmeasured = self.run.policy.renews and self.run.room_said and self.run.room is None
        return Distrust.ROOM_NOT_MEASURED if found is None and unmeasured else found

    @cached_property
    def verdict(self) -> Verdict | None:
        """The verdict on the phase that counts; None until every series has at least two pairs, and while a
        reading of one is asked about."""
        return self._judge(self.run.series)

    @cached_property
    def found(self) -> Verdict | None:
        """The verdict on the as-found series."""
        return self.verdict if not self.run.left else self._judge(self.run.found)

    def point(self, series: SeriesState) -> PointResult | None:
        """One series judged alone; None until it has two pairs, and while one of its readings is
        asked about."""
        if series.id not in self._points:
            judged = self._judge((series,))
            self._points[series.id] = judged.points[0] if judged else None
        return self._points[series.id]

    def state_of(self, series: SeriesState, observation: ObservationState) -> State | None:
        """Where one observation lies, with the near zone that its series has so far; None for one that says nothing."""
        pair, point = series.pair_of(observation), self.point(series)
        if pair is None:
            return None
        if self.run.policy.beside_first or (self.run.reference is not None and not self.run.reference.proven):
            return State.COMPARED
        return state_of(abs(pair.deviation), self.run.limit(series.target), point.decision.near_zone if point else 0.0)

    @property
    def phases(self) -> list[tuple[tuple[SeriesState, ...], Verdict]]:
        """As found, and as left where there is one, each with its verdict."""
        both = ((self.run.found, self.found), (self.run.left, self.verdict))
        return [(series, judged) for series, judged in both if series and judged is not None]

    def _judge(self, series: tuple[SeriesState, ...]) -> Verdict | None:
        run = self.run
        if run.reference is None or not series or any(len(s.pairs) < 2 or run.asks_about(s) for s in series):
            return None
        detail = run.set_up.detail if run.set_up else NOTHING
        points = [
            PointInput(
                s.target,
                Observations(tuple(p.tool for p in s.pairs), s.torques),
                run.procedure.at(run.reference, s.target, detail),
            )
            for s in series
        ]
        return verdict(
            run.tool.kind,
            run.rules,
            points,
            effects=run.facts.measured.effects,
            decision=run.decision,
            reference_trusted=self.distrust is None,
            unproven=not run.reference.proven or run.policy.beside_first,
        )


def judged(run: RunState) -> Judgement:
    """The judgement of ``run``; worked out once, and kept with the run's state."""
    if not run.judgements:
        run.judgements.append(Judgement(run))
    return run.judgements[0]


def comparisons(run: RunState) -> tuple[tuple[SeriesState, EarlierSeries, Comparison], ...]:
    """Each series beside the last signed run's at the same target and direction, held against a quarter of the limit."""
    made = []
    for series in run.series:
        before = next((e for e in run.earlier if e.target == series.target and e.direction == series.direction), None)
        if run.asks_about(series):
            continue
        if before is not None and len(series.pairs) >= 2 and len(before.torques) >= 2:
            made.append((series, before, compare(before.torques, series.readings, run.limit(series.target) / 4)))
    return tuple(made)


def margin_of(run: RunState) -> float:
    """The difference that matters: a quarter of the limit, a fraction."""
    return run.limit(run.found[0].target) / 4


def sides_held(run: RunState) -> Sides | None:
    """What the two sides say of each other; None until each has two readings. Raises InputRefused where they scatter so far
    that no ratio can be told."""
    if run.sides is None:
        return None
    first, second, *again = (series.readings for series in run.found)
    if len(first) < 2 or len(second) < 2:
        return None
    return hold_sides(
        first,
        second,
        again[0] if again else (),
        margin=margin_of(run),
        expected=run.sides.expected(run.tool) or 1.0,
    )


def beside_first(run: RunState, series: SeriesState) -> tuple[float, ...]:
    """A series' readings as fractions from what they should be, by the mean of the first side: the picture on the fences."""
    first, sides = run.found[0].readings, run.sides
    if not run.policy.beside_first or not first:
        return ()
    ratio = (sides.expected(run.tool) or 1.0) if sides is not None and series.place == 1 else 1.0
    middle = sum(first) / len(first) * ratio
    return tuple(reading / middle - 1 for reading in series.readings)
