"""The stages of a run for the picture of before and after: as it came, as found, and as left after each adjustment."""

from __future__ import annotations

from reckoner.core.translation import tr
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import phase_words
from reckoner.store.terms import PhaseKind
from reckoner.ui.bench.fences import fence_of
from reckoner.ui.bench.instructions import series_name
from reckoner.ui.bench.screw import turn_words
from reckoner.ui.widgets.beforeafter import ComparedStage
from reckoner.ui.widgets.fence import FenceState


def stages(run: RunState) -> tuple[tuple[str, ...], tuple[ComparedStage, ...]]:
    """The points by name, and what stands in each stage; nothing where there is a single one."""
    made: list[ComparedStage] = []
    points = run.found
    if any(s.pairs for s in run.came):
        made.append(ComparedStage(tr("As it came"), _beside(run, points, run.came)))
    releases = sum(e.done for e in run.exercise)
    made.append(
        ComparedStage(
            tr("As found"),
            _beside(run, points, run.found),
            tr("{releases} releases", releases=releases) if made else "",
        )
    )
    rounds = sorted({s.phase for s in run.all_series if s.phase.kind is PhaseKind.LEFT})
    for phase in rounds:
        series = tuple(s for s in run.all_series if s.phase == phase)
        turned = sum(
            s.turn or 0.0 for s in run.all_series if s.phase.kind is PhaseKind.ADJUST and s.phase.round == phase.round
        )
        words = phase_words(phase)
        made.append(
            ComparedStage(
                f"{words[:1].upper()}{words[1:]}",
                _beside(run, points, series),
                tr("turned {turn_words}", turn_words=turn_words(turned)),
            )
        )
    if len(made) < 2:
        return (), ()
    return tuple(series_name(run, s) for s in points), tuple(made)


def _beside(
    run: RunState, points: tuple[SeriesState, ...], series: tuple[SeriesState, ...]
) -> tuple[FenceState | None, ...]:
    """The fence of each point's series; of what was pulled a few times only, its ticks."""
    by = {(s.target, s.direction): s for s in series if s.pairs}
    return tuple(fence_of(run, by[p.target, p.direction]) if (p.target, p.direction) in by else None for p in points)
