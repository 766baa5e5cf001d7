"""The calculators: one JSON object in, one out, computed by the same core functions that serve the window.

``fields``      kinds of fields, and what requests share
``weighing``    convert, gravity, deadweight, force, plan, bracket, walk, match
``levers``      lever, lever_angles, adjust, adjust_all, sequence, scale
``verdicts``    verdict, certificate, evidence, question
``history``     drift, interval, compare, impact
``traces``      trace

Torque goes out in the request's unit, length in m, angles in degrees, relative values in percent under a name that ends
in ``_percent``, dates as ISO 8601; full double precision, nothing non-finite. Each request's fields are described in
docs/calculators.md. To add a calculator: a request model and a function in the module of its idea, and a row in
``CALCULATORS``; it is then known to `reckoner calc` and may be named by the validation pack.
"""

from __future__ import annotations

import importlib
import json
from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from reckoner.core.errors import InputRefused, OurFault
from reckoner.core.translation import tr
from reckoner.formats.calculators.fields import Answer, Request
from reckoner.formats.fields import sentences

CALCULATORS: dict[str, tuple[str, str, str]] = {
    "adjust": ("levers", "Adjust", "adjust"),
    "adjust_all": ("levers", "AdjustAll", "adjust_all"),
    "bracket": ("weighing", "BracketRequest", "bracket"),
    "certificate": ("verdicts", "CertificateRequest", "certificate"),
    "compare": ("history", "CompareRequest", "compare"),
    "convert": ("weighing", "Convert", "convert"),
    "deadweight": ("weighing", "DeadWeight", "deadweight"),
    "drift": ("history", "DriftRequest", "drift"),
    "evidence": ("verdicts", "EvidenceRequest", "evidence"),
    "force": ("weighing", "ForceRequest", "force"),
    "gravity": ("weighing", "GravityRequest", "gravity"),
    "impact": ("history", "ImpactRequest", "impact"),
    "interval": ("history", "IntervalRequest", "interval"),
    "lever": ("levers", "LeverRequest", "lever"),
    "lever_angles": ("levers", "LeverAngles", "lever_angles"),
    "match": ("weighing", "MatchRequest", "match"),
    "plan": ("weighing", "PlanRequest", "plan"),
    "question": ("verdicts", "QuestionRequest", "question"),
    "scale": ("levers", "ScaleRequest", "scale"),
    "sequence": ("levers", "SequenceRequest", "sequence"),
    "trace": ("traces", "TraceRequest", "trace"),
    "verdict": ("verdicts", "VerdictRequest", "verdict"),
    "walk": ("weighing", "WalkRequest", "walk"),
}
"""Name → (module, request model, function); a module loads when it is named."""


class CalculationRefused(InputRefused):
    """A request cannot be computed: ``str()`` names the field and what is wrong with it, on one line."""


def calculate(name: str, request: Any) -> Answer:
    """The answer of calculator ``name`` to a ``request`` read from JSON. Raises InputRefused."""
    if name not in CALCULATORS:
        raise CalculationRefused(
            "name",
            name,
            tr('there is no calculator "{name}"; there are {list}', name=name, list=", ".join(CALCULATORS)),
        )
    if not isinstance(request, dict):
        raise CalculationRefused("request", request, tr("must be one JSON object"))
    module, model, function = CALCULATORS[name]
    room = importlib.import_module(f"reckoner.formats.calculators.{module}")
    asked: type[Request] = getattr(room, model)
    compute: Callable[[Request], Answer] = getattr(room, function)
    try:
        understood = asked.model_validate(request)
    except ValidationError as fault:
        said = sentences(fault)
        field, _, reason = said[0].partition(": ")
        raise CalculationRefused(field, None, "; ".join((reason, *said[1:]))) from None
    return compute(understood)


def calculate_text(name: str, text: str) -> str:
    """The same from JSON text to JSON text. Raises InputRefused; a non-finite number in an answer is our fault."""
    try:
        request = json.loads(text, parse_constant=_no_constant, object_pairs_hook=_no_doubles)
    except json.JSONDecodeError as fault:
        where = tr("line {lineno}, column {colno}", lineno=fault.lineno, colno=fault.colno)
        raise CalculationRefused(
            "request", text, tr("is not JSON ({where}: {msg})", where=where, msg=fault.msg)
        ) from None
    except RecursionError:
        raise CalculationRefused("request", text, tr("is nested too deeply")) from None
    answer = calculate(name, request)
    try:
        return json.dumps(answer, allow_nan=False, ensure_ascii=False, indent=2)
    except ValueError as fault:
        raise OurFault(f"{name} answered with a number that is not finite") from fault


def _no_constant(name: str) -> float:
    raise CalculationRefused("request", name, tr("holds {name}, which is not a number", name=name))


def _no_doubles(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise CalculationRefused(key, value, tr("is given twice"))
        found[key] = value
    return found
