"""What a characterisation has measured: the b values, and keeping them for the tool or its model."""

from __future__ import annotations

from sqlalchemy.orm import Session

from reckoner.core.budget import Effect, Effects
from reckoner.shop.acts import Act
from reckoner.shop.runs.state import RunState
from reckoner.store.schema import Characterisation


def measured(run: RunState) -> Effects:
    """The b values (N·m) of a characterisation: the range of the means over an effect's places."""
    found: dict[str, float] = {}
    for effect in Effect:
        means = [s.mean for s in run.all_series if s.effect is effect and s.pairs]
        if len(means) >= 2:
            found[effect.value] = max(means) - min(means)
    return Effects(**found)


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
