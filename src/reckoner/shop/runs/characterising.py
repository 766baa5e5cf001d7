"""What a characterisation has measured: the b values, and keeping them for the tool or its model."""

from __future__ import annotations

from sqlalchemy.orm import Session

from reckoner.core.budget import Effect, Effects
from reckoner.core.characterisation import width
from reckoner.shop.acts import Act
from reckoner.shop.runs.state import RunState
from reckoner.store.schema import Characterisation


def measured(run: RunState) -> Effects:
    """The b values (N·m) of a characterisation: from the range of the means over an effect's places and its factor d₂; the
    loading point's two places are its ends, 10 mm nearer and further out, and its b is their difference."""
    found: dict[str, float] = {}
    for effect, means in measured_means(run).items():
        found[effect.value] = max(means) - min(means) if effect is Effect.LOADING_POINT else width(means)
    return Effects(**found)


def measured_means(run: RunState) -> dict[Effect, tuple[float, ...]]:
    """The means (N·m) over the places of each effect that was measured at two and more."""
    means = {e: tuple(s.mean for s in run.all_series if s.effect is e and s.pairs) for e in Effect}
    return {effect: found for effect, found in means.items() if len(found) >= 2}


def keep(session: Session, run: RunState, act: Act, *, of_model: bool) -> None:
    """Keep what a signed characterisation has measured."""
    effects = measured(run)
    session.add(
        Characterisation(
            run_id=run.id,
            tool_id=None if of_model else run.tool.id,
            model_id=run.tool.model_id if of_model else None,
            at=act.at,
            target=run.all_series[0].target,
            reproducibility=effects.reproducibility,
            output_drive=effects.output_drive,
            interface=effects.interface,
            loading_point=effects.loading_point,
        )
    )
