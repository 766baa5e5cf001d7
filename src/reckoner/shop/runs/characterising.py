"""What a characterisation has measured: the b values, and keeping them for the tool or its model."""

from __future__ import annotations

import math

from sqlalchemy.orm import Session

from reckoner.core.uncertainty.budget import Effect, Effects, EffectWidth
from reckoner.core.uncertainty.characterisation import width_of_difference, width_of_means
from reckoner.shop.people.authorship import Act
from reckoner.shop.runs.state import RunState
from reckoner.store.schema import Characterisation


def measured(run: RunState) -> Effects:
    """The b values (N·m) of a characterisation: from the range of the means over an effect's places and its factor d₂; the
    loading point's two places are its ends, 10 mm nearer and further out, and its b is their difference. What the readings at
    each place scatter by is taken out of both."""
    found: dict[str, EffectWidth] = {}
    for effect, means in measured_means(run).items():
        scatter, readings = scatter_of(run, effect)
        if effect is Effect.LOADING_POINT:
            found[effect.value] = width_of_difference(max(means) - min(means), scatter, readings)
        else:
            found[effect.value] = width_of_means(means, scatter, readings)
    return Effects(**found)


def scatter_of(run: RunState, effect: Effect) -> tuple[float, int]:
    """The pooled standard deviation (N·m) of the readings at one place of an effect, and the fewest that were taken at
    one."""
    series = [s for s in run.all_series if s.effect is effect and s.pairs]
    squares = sum((p.reference - s.mean) ** 2 for s in series for p in s.pairs)
    freedom = sum(len(s.pairs) - 1 for s in series)
    return math.sqrt(squares / freedom) if freedom else 0.0, min(len(s.pairs) for s in series)


def measured_means(run: RunState) -> dict[Effect, tuple[float, ...]]:
    """The means (N·m) over the places of each effect that was measured at two and more."""
    means = {e: tuple(s.mean for s in run.all_series if s.effect is e and s.pairs) for e in Effect}
    return {effect: found for effect, found in means.items() if len(found) >= 2}


def known_with(effect: EffectWidth | None) -> float | None:
    """The degrees of freedom as they are kept: None for none, and for those that are as good as infinite."""
    return None if effect is None or math.isinf(effect.degrees_of_freedom) else effect.degrees_of_freedom


def keep(session: Session, run: RunState, act: Act, *, of_model: bool) -> None:
    """Keep what a signed characterisation has measured. Right: none."""
    effects = measured(run)
    session.add(
        Characterisation(
            run_id=run.id,
            tool_id=None if of_model else run.tool.id,
            model_id=run.tool.model_id if of_model else None,
            at=act.at,
            target=run.all_series[0].target,
            **{e.value: known.b for e in Effect if (known := getattr(effects, e.value)) is not None},
            **{f"{e.value}_freedom": known_with(getattr(effects, e.value)) for e in Effect},
        )
    )
