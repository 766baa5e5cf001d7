"""The calculator of traces, from samples in the request or in a CSV file.

Traces as CSV files: reading them; ``core.trace.text`` says what stands in one.
"""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

from pydantic import Field, model_validator

from reckoner.core.errors import InputRefused
from reckoner.core.requirements.tooltypes import Mechanism
from reckoner.core.trace.analysis import analyse
from reckoner.core.trace.event import TraceEvent
from reckoner.core.trace.text import TraceText, parse
from reckoner.core.translation import tr
from reckoner.formats.calculators.fields import Answer, Number, Torque, TorqueRequest


def load(path: str | Path, field: str = "csv") -> TraceText:
    """The trace in the file at ``path``. Raises InputRefused, naming ``field``, the line and what is wrong with it."""
    try:
        text = Path(path).read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError, ValueError) as fault:
        reason = getattr(fault, "strerror", None) or tr("it is not UTF-8 text")
        raise InputRefused(
            field, str(path), tr('"{path}" cannot be read: {reason}', path=path, reason=reason)
        ) from None
    return parse(text, field)


Sample = Annotated[list[Number], Field(min_length=2, max_length=3)]


class TraceRequest(TorqueRequest):
    samples: list[Sample] | None = None
    csv: str | None = None
    target: Torque | None = None
    mechanism: Mechanism = Mechanism.CLICK

    @model_validator(mode="after")
    def _one_way(self) -> TraceRequest:
        if (self.samples is None) == (self.csv is None):
            raise ValueError("give samples or csv")
        return self


def trace(request: TraceRequest) -> Answer:
    """The signals, slips or plateaus in a trace, with the faults of each pull. Samples are in the request's unit."""
    r = request
    if r.csv is not None:
        file = load(r.csv)
    else:
        file = _numbered(r)
    if not file.times:
        raise InputRefused("samples" if r.csv is None else "csv", (), tr("holds no samples"))
    found = analyse(file.times, file.torques, target=r.target, mechanism=r.mechanism, numbers=file.numbers)
    return {
        "events": [_event(e, r) for e in found.events],
        "corner_frequency_hz": found.corner,
        "noise": r.out(found.noise),
        "smoothing_cost_percent": found.smoothing_cost * 100,
    }


def _numbered(r: TraceRequest) -> TraceText:
    """The samples of a request, each with its running number or none of them."""
    samples = r.samples or []
    width = len(samples[0]) if samples else 2
    for at, sample in enumerate(samples):
        if len(sample) != width:
            raise InputRefused(f"samples[{at}]", sample, tr("every sample has a running number, or none has"))
        if width == 3 and not sample[0].is_integer():
            raise InputRefused(f"samples[{at}][0]", sample[0], tr("a running number is a whole number"))
    numbers = [int(s[0]) for s in samples] if width == 3 else None
    return TraceText([s[-2] for s in samples], [r.unit.to_si(s[-1]) for s in samples], numbers)


def _event(event: TraceEvent, r: TraceRequest) -> Answer:
    over = event.over_travel
    return {
        "first_peak": None if event.first_peak is None else r.out(event.first_peak),
        "peak": r.out(event.peak),
        "over_travel_percent": None if over is None else over * 100,
        "time_80_to_100": event.time_80_to_100,
        "at": event.at,
        "zero": r.out(event.zero),
        "zero_before": None if event.zero_before is None else r.out(event.zero_before),
        "zero_after": None if event.zero_after is None else r.out(event.zero_after),
        "faults": [fault.value for fault in event.faults],
    }
