"""What number a signed run's certificate bears."""

from __future__ import annotations

from reckoner.shop.runs.state import RunState


def certificate_number(run: RunState) -> str:
    """The number that a signed run's certificate bears."""
    on = run.signature.on if run.signature is not None else run.opened.date()
    return f"{on:%Y}-{run.id:05d}"
