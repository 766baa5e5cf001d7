"""What is typed of a reference, read as the torque that it means."""

from __future__ import annotations

from functools import partial

from reckoner.shop.runs.state import RunState
from reckoner.ui.widgets.entry import TextReader, torque_reader


def reading_reader(run: RunState) -> TextReader[float]:
    """Reads what the reference of a run shows: a torque, or a force that the lever makes one."""
    unit = run.tool.unit
    return torque_reader(unit) if run.reference is None else partial(run.reference.read, unit=unit)
