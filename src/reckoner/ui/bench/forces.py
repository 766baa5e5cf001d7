"""What a force gauge shows, read as the torque that it makes on the lever."""

from __future__ import annotations

from reckoner.core.printing import quantity
from reckoner.shop.gauging import PullFacts
from reckoner.shop.runs.state import RunState
from reckoner.ui.widgets.entry import TextReader


def force_reader(run: RunState, pull: PullFacts) -> TextReader[float]:
    """Reads what a force gauge shows, as the torque that it makes."""

    def understand(text: str) -> tuple[float, str]:
        torque, words = pull.read(text)
        return torque, f"{words}: {quantity(torque, run.tool.unit)}"

    return understand
