"""What number a signed run's certificate bears."""

from __future__ import annotations

from datetime import date
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from reckoner.shop.runs.state import RunState


def number_of(on: date, run_id: int) -> str:
    """The number of a run's certificate: the year of its signature, and the run's own number.

    >>> number_of(date(2026, 11, 24), 133)
    '2026-00133'
    """
    return f"{on:%Y}-{run_id:05d}"


def certificate_number(run: RunState) -> str:
    """The number that a signed run's certificate bears."""
    return number_of(run.signature.on if run.signature is not None else run.opened.date(), run.id)
