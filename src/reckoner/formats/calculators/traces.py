"""The calculator of traces, from samples in the request or in a CSV file."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from reckoner.core.errors import InputRefused
from reckoner.core.kinds import Mechanism
from reckoner.core.trace import TraceEvent, analyse
from reckoner.core.tracetext import TraceText
from reckoner.formats.calculators.fields import Answer, Number, Torque, TorqueRequest
from reckoner.formats.trace_csv import load

Sample = Annotated[list[Number], Field(min_length=2, max_length=2)]


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
        samples = r.samples or []
        file = TraceText([s[0] for s in samples], [r.unit.to_si(s[1]) for s in samples])
    if not file.times:
        raise InputRefused("samples" if r.csv is None else "csv", (), "holds no samples")
    found = analyse(file.times, file.torques, target=r.target, mechanism=r.mechanism)
    return {
        "events": [_event(e, r) for e in found.events],
        "corner_frequency_hz": found.corner,
        "noise": r.out(found.noise),
        "smoothing_cost_percent": found.smoothing_cost * 100,
    }


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
