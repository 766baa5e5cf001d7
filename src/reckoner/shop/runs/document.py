"""The facts of a run as one JSON document, written when the run is set up and read whenever it is judged.

To change what it holds, once a version was released: a new version here, and a reader for it beside the old ones, which stay.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import asdict, fields
from datetime import date
from functools import lru_cache
from typing import Any

from reckoner.core.budget import Effect, Effects, EffectWidth
from reckoner.core.errors import Refused
from reckoner.core.gauge import Shows
from reckoner.core.interval import Outcome, School
from reckoner.core.kinds import Approach, Direction, ErrorKind, Mechanism, ToolKind, ToolType
from reckoner.core.reference import CertificatePoint
from reckoner.core.rules import RuleSet
from reckoner.core.units import Kind, unit_named
from reckoner.formats import rulesets
from reckoner.shop.facts import MeasuredEffects, ReferenceFacts, RunFacts
from reckoner.shop.gauging import Gauge, PullFacts, Squared
from reckoner.shop.hanging import Anchor, HungAt, HungWeight, Levelled, LeverFacts
from reckoner.shop.intervals import IntervalBasis
from reckoner.shop.limits import limit_from, unread
from reckoner.shop.runs.characterising import known_with
from reckoner.shop.toolfacts import AdjustmentFacts, SecondScale, ToolFacts
from reckoner.store.terms import ReferenceKind

VERSION = 1


class FactsUnreadable(Refused):
    """The document kept with a run cannot be read; ``why`` says where it is wrong."""

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return (
            f"What this run was judged by cannot be read ({self.why}). It was written by a newer Reckoner, or the database "
            "is damaged: update this Reckoner, or put back the last backup."
        )


def write(facts: RunFacts) -> str:
    """The document of ``facts``."""
    return json.dumps(
        {
            "version": VERSION,
            "tool": _tool(facts.tool),
            "reference": None if facts.reference is None else _reference(facts.reference),
            "effects": _effects(facts.measured),
            "interval": None if facts.interval is None else _interval(facts.interval),
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
            raise FactsUnreadable(f"its version is {raw['version']}")
        rules = raw["rules"]
        return RunFacts(
            tool=_read_tool(raw["tool"]),
            rules=rules_from(rules["text"], rules["name"]),
            rules_text=rules["text"],
            measured=_read_effects(raw["effects"]),
            reference=None if raw["reference"] is None else _read_reference(raw["reference"]),
            interval=_read_interval(raw["interval"]),
        )
    except KeyError as fault:
        raise FactsUnreadable(f"it lacks {fault}") from None
    except (TypeError, ValueError, rulesets.RuleSetRefused) as fault:
        raise FactsUnreadable(str(fault)) from None


@lru_cache(maxsize=64)
def rules_from(text: str, name: str) -> RuleSet:
    """The rule set kept with a run, read once for each different text."""
    return rulesets.parse(text, name)


def _tool(tool: ToolFacts) -> dict[str, Any]:
    kind, adjustment = tool.kind, tool.adjustment
    return {
        "id": tool.id,
        "number": tool.number,
        "serial": tool.serial,
        "maker": tool.maker,
        "model": tool.model,
        "model_id": tool.model_id,
        "type": kind.type.value,
        "class": kind.class_,
        "mechanism": tool.mechanism.value,
        "minimum": kind.minimum,
        "maximum": kind.maximum,
        "resolution": kind.resolution,
        "limits": [unread(limit) for limit in kind.limits],
        "unit": tool.unit.name,
        "drive": tool.drive,
        "directions": [d.value for d in tool.directions],
        "approach": tool.approach.value,
        "place": tool.place,
        "rule_set": tool.rule_set,
        "interval_months": tool.interval_months,
        "cycles_per_year": tool.cycles_per_year,
        "lever": tool.lever,
        "pivot": tool.pivot,
        "own_mass": tool.own_mass,
        "own_centre": tool.own_centre,
        "second": None
        if tool.second is None
        else {"unit": tool.second.unit.name, "resolution": tool.second.resolution},
        "made_for_head": tool.made_for_head,
        "head": tool.head,
        "corrects_adapter": tool.corrects_adapter,
        "adjustment": None
        if adjustment is None
        else {
            "where": adjustment.where,
            "raises": adjustment.raises and adjustment.raises.value,
            "lock": adjustment.lock,
            "rate": adjustment.rate,
            "most_turns": adjustment.most_turns,
            "relieve": adjustment.relieve,
            "changes": adjustment.changes,
        },
    }


def _read_tool(raw: Mapping[str, Any]) -> ToolFacts:
    limits = tuple(limit_from(limit) for limit in raw["limits"])
    kind = ToolKind(ToolType(raw["type"]), raw["class"], raw["maximum"], raw["minimum"], raw["resolution"], limits)
    given = raw["adjustment"]
    adjustment = None
    if given is not None:
        adjustment = AdjustmentFacts(
            given["where"],
            Direction(given["raises"]) if given["raises"] else None,
            given["lock"],
            given["rate"],
            given["most_turns"],
            given["relieve"],
            ErrorKind(given["changes"]) if given["changes"] else None,
        )
    return ToolFacts(
        id=raw["id"],
        number=raw["number"],
        serial=raw["serial"],
        maker=raw["maker"],
        model=raw["model"],
        model_id=raw["model_id"],
        kind=kind,
        mechanism=Mechanism(raw["mechanism"]),
        unit=unit_named(raw["unit"], Kind.TORQUE),
        drive=raw["drive"],
        directions=tuple(Direction(d) for d in raw["directions"]),
        approach=Approach(raw["approach"]),
        place=raw["place"],
        rule_set=raw["rule_set"],
        interval_months=raw["interval_months"],
        cycles_per_year=raw["cycles_per_year"],
        lever=raw["lever"],
        pivot=raw["pivot"],
        own_mass=raw["own_mass"],
        own_centre=raw["own_centre"],
        adjustment=adjustment,
        second=_read_second(raw["second"]),
        made_for_head=raw["made_for_head"],
        head=raw["head"],
        corrects_adapter=raw["corrects_adapter"],
    )


def _read_second(raw: Mapping[str, Any] | None) -> SecondScale | None:
    return None if raw is None else SecondScale(unit_named(raw["unit"], Kind.TORQUE), raw["resolution"])


def _reference(reference: ReferenceFacts) -> dict[str, Any]:
    certificate = None
    if reference.certificate_id is not None:
        certificate = {
            "id": reference.certificate_id,
            "number": reference.certificate_number,
            "laboratory": reference.laboratory,
            "issued": _day(reference.issued),
            "due": _day(reference.due),
            "coverage_factor": reference.coverage_factor,
            "points": [[p.torque, p.error, p.expanded_uncertainty] for p in reference.points],
        }
    return {
        "id": reference.id,
        "number": reference.number,
        "kind": reference.kind.value,
        "serial": reference.serial,
        "minimum": reference.minimum,
        "maximum": reference.maximum,
        "resolution": reference.resolution,
        "zero_tolerance": reference.zero_tolerance,
        "corrected": reference.corrected,
        "error_left": reference.error_left,
        "hung": None if reference.hung is None else lever_written(reference.hung),
        "pull": None if reference.pull is None else asdict(reference.pull),
        "certificate": certificate,
    }


def _read_reference(raw: Mapping[str, Any]) -> ReferenceFacts:
    certificate: Mapping[str, Any] = raw["certificate"] or {}
    return ReferenceFacts(
        id=raw["id"],
        number=raw["number"],
        kind=ReferenceKind(raw["kind"]),
        serial=raw["serial"],
        minimum=raw["minimum"],
        maximum=raw["maximum"],
        resolution=raw["resolution"],
        zero_tolerance=raw["zero_tolerance"],
        corrected=raw["corrected"],
        error_left=raw["error_left"],
        certificate_id=certificate.get("id"),
        certificate_number=certificate.get("number", ""),
        laboratory=certificate.get("laboratory", ""),
        issued=_read_day(certificate.get("issued")),
        due=_read_day(certificate.get("due")),
        coverage_factor=certificate.get("coverage_factor", 2.0),
        points=tuple(CertificatePoint(*p) for p in certificate.get("points", ())),
        hung=lever_read(raw["hung"]) if raw["hung"] is not None else None,
        pull=_read_pull(raw["pull"]),
    )


def lever_written(lever: LeverFacts) -> dict[str, Any]:
    """A set-up with weights as a part of a document."""
    points = [
        {
            "target": p.target,
            "hook": p.hook,
            "weights": _stack(p.weights),
            **({"rungs": [_stack(rung) for rung in p.rungs]} if p.rungs else {}),
        }
        for p in lever.points
    ]
    return {**{name: getattr(lever, name) for name in _LEVER}, "points": points}


def _stack(weights: tuple[HungWeight, ...]) -> list[list[Any]]:
    return [[w.number, w.mass, w.uncertainty] for w in weights]


def _read_stack(raw: list[list[Any]]) -> tuple[HungWeight, ...]:
    return tuple(HungWeight(*w) for w in raw)


_LEVER = tuple(f.name for f in fields(LeverFacts) if f.name != "points")


def _read_pull(raw: Mapping[str, Any] | None) -> PullFacts | None:
    if raw is None:
        return None
    gauge = Gauge(**{**raw["gauge"], "shows": Shows(raw["gauge"]["shows"])})
    check = tuple(raw["check"]) if raw["check"] is not None else None
    return PullFacts(**{**raw, "gauge": gauge, "squared": Squared(raw["squared"]), "check": check})


def lever_read(raw: Mapping[str, Any]) -> LeverFacts:
    """The set-up with weights in a part of a document."""
    points = tuple(
        HungAt(p["target"], _read_stack(p["weights"]), p["hook"], tuple(_read_stack(r) for r in p.get("rungs", ())))
        for p in raw["points"]
    )
    more = {name: raw[name] for name in _LEVER}
    more |= {"levelled": Levelled(raw["levelled"]), "anchor": Anchor(raw["anchor"])}
    return LeverFacts(points, **more)


def _interval(basis: IntervalBasis) -> dict[str, Any]:
    return {
        "school": basis.school.value,
        "months": basis.months,
        "now": basis.now,
        "target": basis.target,
        "outcomes": [[o.months, o.inside, o.count] for o in basis.outcomes],
    }


def _read_interval(raw: Mapping[str, Any] | None) -> IntervalBasis | None:
    if raw is None:
        return None
    outcomes = tuple(Outcome(*outcome) for outcome in raw["outcomes"])
    return IntervalBasis(School(raw["school"]), raw["months"], raw["now"], raw["target"], outcomes)


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
