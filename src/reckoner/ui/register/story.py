"""A point of a tool from run to run, as the fence through time draws it."""

from __future__ import annotations

from reckoner.core.translation import tr
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.register.sheet import ToolSheet
from reckoner.shop.register.trends import Point
from reckoner.ui.drawings.timefence import TimePoint


def story_of(sheet: ToolSheet, point: Point) -> tuple[TimePoint, ...]:
    """A point from run to run."""
    return tuple(_time_point(r, p) for r in sheet.runs for p in r.points if (p.direction, p.target) == point)


def _time_point(run: RunHistory, point: PointHistory) -> TimePoint:
    with_what = tr(" with {reference}", reference=run.reference) if run.reference else ""
    told = tr(
        "{which}, {words}, by {by}{with_what}",
        which=tr("as left") if point.as_left else tr("as found"),
        words=point.state.words,
        by=run.by,
        with_what=with_what,
    )
    return TimePoint(run.on, point.deviation, point.expanded_uncertainty, point.state, point.as_left, told)
