"""Recomputing what signed runs say from their readings and the rule set's text kept with them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.shop.run import RunKind
from reckoner.shop.runload import load
from reckoner.shop.signing import judged_phases
from reckoner.store.schema import Run, Signature

SLACK = 1e-9


@dataclass(frozen=True)
class Recomputed:
    """One signed run: how many of its numbers were recomputed, and a sentence for each that came out otherwise."""

    tool: str
    on: date
    numbers: int
    otherwise: tuple[str, ...]


def recompute(session: Session) -> Iterator[Recomputed]:
    """Every signed run that judged something, oldest first; each number against what was kept at the signature."""
    rows = session.scalars(
        select(Signature).join(Run).where(Run.kind != RunKind.CHARACTERISE.value).order_by(Signature.at)
    )
    for signature in rows:
        state = load(session, signature.run_id)
        on = state.as_of or signature.at.date()
        fresh = [
            (s, p) for series, judged in judged_phases(state, on) for s, p in zip(series, judged.points, strict=True)
        ]
        kept = {r.series_id: r for r in signature.results}
        numbers, otherwise = 0, []
        for series, point in fresh:
            stored = kept.get(series.id)
            if stored is None:
                otherwise.append(f"{series.phase} at {series.target:g} N·m: no result was kept")
                continue
            for name, now in (
                ("deviation", point.budget.deviation),
                ("worst", point.budget.worst),
                ("expanded_uncertainty", point.budget.expanded_uncertainty),
                ("probability", point.decision.probability),
            ):
                numbers += 1
                then = getattr(stored, name)
                if not math.isclose(now, then, rel_tol=SLACK, abs_tol=SLACK):
                    otherwise.append(f"{series.phase} at {series.target:g} N·m: {name} {now:.9g}, kept was {then:.9g}")
            numbers += 1
            if point.decision.state.value != stored.state:
                otherwise.append(
                    f"{series.phase} at {series.target:g} N·m: {point.decision.state.value}, kept was {stored.state}"
                )
        yield Recomputed(state.tool.number, on, numbers, tuple(otherwise))
