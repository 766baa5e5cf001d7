"""A line of a review, what it is judged by, and how both are kept as one JSON document."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from reckoner.core.tightening.setting import Band, BandPlace, KnownPoint
from reckoner.shop.using.setting import SettingUse
from reckoner.store.terms import term


@dataclass(frozen=True)
class ReviewLine:
    """A use as it was judged: ``delivered`` in N·m with its relative W (None: it cannot be told), where that ``falls``, and
    whether it was ``low`` on the tool's scale, where nothing is promised even by one that is inside."""

    use: SettingUse
    delivered: float | None
    uncertainty: float | None
    falls: BandPlace
    low: bool


def review_document(basis: Basis, lines: Sequence[ReviewLine], siblings_: Sequence[str]) -> str:
    """A review as it is kept."""
    return json.dumps(
        {
            "by": basis.by,
            "since": basis.since.isoformat() if basis.since is not None else None,
            "until": basis.until.isoformat(),
            "points": [[p.setting, p.deviation, p.expanded_uncertainty] for p in basis.points],
            "lines": [_line_written(line) for line in lines],
            "siblings": list(siblings_),
        },
        ensure_ascii=False,
    )


def _line_written(line: ReviewLine) -> dict[str, Any]:
    use = line.use
    return {
        "to": use.to,
        "on": use.on.isoformat(),
        "back": use.back.isoformat() if use.back is not None else None,
        "job": use.job,
        "joint": use.joint,
        "set": use.set,
        "factor": use.factor,
        "adapter": use.adapter,
        "band": [use.band.low, use.band.high] if use.band is not None else None,
        "measured": use.measured,
        "delivered": line.delivered,
        "uncertainty": line.uncertainty,
        "falls": line.falls.value,
        "low": line.low,
    }


def read_line(raw: Mapping[str, Any]) -> ReviewLine:
    """A line as it was kept. Raises TermUnknown."""
    band = Band(*raw["band"]) if raw["band"] else None
    use = SettingUse(
        to=raw["to"],
        on=date.fromisoformat(raw["on"]),
        back=date.fromisoformat(raw["back"]) if raw["back"] else None,
        job=raw["job"],
        joint=raw["joint"],
        set=raw["set"],
        factor=raw["factor"],
        adapter=raw["adapter"],
        band=band,
        measured=bool(raw["measured"]),
    )
    return ReviewLine(use, raw["delivered"], raw["uncertainty"], term(BandPlace, raw["falls"]), bool(raw["low"]))


@dataclass(frozen=True)
class Basis:
    """What was known of the tool: its ``points``, ``by`` what, since when it was last good (None: never)."""

    points: tuple[KnownPoint, ...]
    by: str
    since: date | None
    until: date
