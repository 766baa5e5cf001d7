"""Recomputing what signed runs say from their observations and the facts kept with them."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.verdict import PointResult
from reckoner.core.translation import tr
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.words.results import phase_words
from reckoner.store.schema import PointResultRow, Run, Signature

SLACK = 1e-9


@dataclass(frozen=True)
class Recomputed:
    """One signed run: how many of its numbers were recomputed, and a sentence for each that came out otherwise."""

    tool: str
    on: date
    numbers: int
    otherwise: tuple[str, ...]


_JUDGED = Run.kind.in_([kind for kind, policy in POLICIES.items() if policy.judges])


def recompute_part(session: Session, after: int, until: int | None) -> list[Recomputed]:
    """A part of them, as ``parts_of`` cuts it."""
    return list(recompute(session, after, until))


def parts_of(session: Session, after: int, size: int) -> list[tuple[int, int | None]]:
    """The signed runs with signatures ``after`` one, cut into parts of ``size``: after which signature, until which."""
    ids = session.scalars(select(Signature.id).join(Run).where(_JUDGED, Signature.id > after).order_by(Signature.id))
    ends = [*ids.all()[size - 1 :: size], None]
    return list(zip([after, *(end for end in ends if end is not None)], ends, strict=True))


def recompute(session: Session, after: int = 0, until: int | None = None) -> Iterator[Recomputed]:
    """The signed runs that judged something, oldest first, with signatures ``after`` one and ``until`` another (None: to the
    newest); each number against what was kept at the signature."""
    which = select(Signature).join(Run).where(_JUDGED, Signature.id > after)
    if until is not None:
        which = which.where(Signature.id <= until)
    for signature in session.scalars(which.order_by(Signature.id)):
        run = load(session, signature.run_id)
        kept = {r.series_id: r for r in signature.results}
        numbers, otherwise = 0, []
        for series, verdict in judged(run).phases:
            for one, point in zip(series, verdict.points, strict=True):
                stored = kept.get(one.id)
                where = tr("{phase_words} at {target:g} N·m", phase_words=phase_words(one.phase), target=one.target)
                if stored is None:
                    otherwise.append(tr("{where}: no result was kept", where=where))
                    continue
                count, said = _compare(stored, one, point)
                numbers += count
                otherwise += [f"{where}: {words}" for words in said]
        yield Recomputed(run.tool.number, signature.at.date(), numbers, tuple(otherwise))


def _compare(stored: PointResultRow, series: SeriesState, point: PointResult) -> tuple[int, list[str]]:
    """How many numbers of a point were recomputed, and what came out otherwise."""
    now = {
        "deviation": (point.budget.deviation, stored.deviation),
        "worst": (point.budget.worst, stored.worst),
        "expanded uncertainty": (point.budget.expanded_uncertainty, stored.expanded_uncertainty),
        "near zone": (point.decision.near_zone, stored.near_zone),
        "probability": (point.decision.probability, stored.probability),
    }
    if stored.limit is not None:
        now["limit"] = (point.decision.limit, stored.limit)
    said = [
        tr("{name} {fresh:.9g}, kept was {then:.9g}", name=name, fresh=fresh, then=then)
        for name, (fresh, then) in now.items()
        if not math.isclose(fresh, then, rel_tol=SLACK, abs_tol=SLACK)
    ]
    if (point.decision.state, series.direction) != (stored.state, stored.direction):
        said.append(tr("{words}, kept was {words_2}", words=point.decision.state.words, words_2=stored.state.words))
    return len(now) + 1, said
