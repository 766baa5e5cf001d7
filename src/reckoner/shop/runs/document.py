"""The facts of a run as one JSON document, written when the run is set up and read whenever it is judged.

To change what it holds, once a version was released: a new version here, and a reader for it beside the old ones, which stay.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import replace
from datetime import date
from functools import lru_cache
from typing import Any

from reckoner.core.errors import Refused
from reckoner.core.requirements.rules import RuleSet
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effect, Effects, EffectWidth
from reckoner.formats import rulesets
from reckoner.formats.documents import DocumentUnreadable, from_plain, to_plain
from reckoner.shop.facts.judged import MeasuredEffects, ReferenceFacts, RunFacts
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.intervals import IntervalBasis
from reckoner.shop.runs.characterising import known_with

VERSION = 1


class FactsUnreadable(Refused):
    """The document kept with a run cannot be read; ``why`` says where it is wrong."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return tr(
            "What this run was judged by cannot be read ({why}). It was written by a newer Reckoner, or "
            "the database is damaged: update this Reckoner, or put back the last backup.",
            why=self.why,
        )


def write(facts: RunFacts) -> str:
    """The document of ``facts``. What stood against its reference while it was chosen is not a part of it."""
    reference = facts.reference
    return json.dumps(
        {
            "version": VERSION,
            "tool": to_plain(facts.tool),
            "reference": None if reference is None else to_plain(replace(reference, stopped="")),
            "effects": _effects(facts.measured),
            "interval": None if facts.interval is None else to_plain(facts.interval),
            "rules": {"name": facts.rules.name, "text": facts.rules_text},
        },
        ensure_ascii=False,
    )


@lru_cache(maxsize=256)
def read(text: str) -> RunFacts:
    """The facts in a document. Raises FactsUnreadable."""
    try:
        raw = json.loads(text)
        if raw["version"] != VERSION:
            raise FactsUnreadable(tr("its version is {raw}", raw=raw["version"]))
        rules, reference, interval = raw["rules"], raw["reference"], raw["interval"]
        return RunFacts(
            tool=from_plain(ToolFacts, raw["tool"]),
            rules=rules_from(rules["text"], rules["name"]),
            rules_text=rules["text"],
            measured=_read_effects(raw["effects"]),
            reference=None if reference is None else from_plain(ReferenceFacts, reference),
            interval=None if interval is None else from_plain(IntervalBasis, interval),
        )
    except KeyError as fault:
        raise FactsUnreadable(tr("it lacks {fault}", fault=fault)) from None
    except DocumentUnreadable as fault:
        raise FactsUnreadable(fault.why) from None
    except (TypeError, ValueError, rulesets.RuleSetRefused) as fault:
        raise FactsUnreadable(str(fault)) from None


@lru_cache(maxsize=64)
def rules_from(text: str, name: str) -> RuleSet:
    """The rule set kept with a run, read once for each different text."""
    return rulesets.parse(text, name)


def _effects(measured: MeasuredEffects) -> dict[str, Any]:
    of = None if measured.on is None else "model" if measured.of_model else "tool"
    found = {e.value: getattr(measured.effects, e.value) for e in Effect}
    written = {n: None if one is None else [one.b, known_with(one)] for n, one in found.items()}
    return {"of": of, "on": _day(measured.on), **written}


def _read_effects(raw: Mapping[str, Any]) -> MeasuredEffects:
    kept = {e.value: _read_width(raw[e.value]) for e in Effect if raw[e.value] is not None}
    return MeasuredEffects(Effects(**kept), raw["of"] == "model", _read_day(raw["on"]))


def _read_width(raw: list[float | None]) -> EffectWidth:
    b, freedom = raw
    return EffectWidth(float(b or 0.0), math.inf if freedom is None else float(freedom))


def _day(day: date | None) -> str | None:
    return None if day is None else day.isoformat()


def _read_day(text: str | None) -> date | None:
    return None if text is None else date.fromisoformat(text)
