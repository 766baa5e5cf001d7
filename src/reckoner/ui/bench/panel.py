"""What every panel in the middle of the bench offers, and what it may ask of the bench."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Protocol, TypeAlias

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.meters.protocol import RoomReport
from reckoner.shop.runs.planning import RunPlan
from reckoner.shop.runs.state import RunState
from reckoner.ui.place import Surroundings
from reckoner.ui.work import SessionCall

if TYPE_CHECKING:
    from reckoner.ui.bench.meter.desk import MeterDesk
    from reckoner.ui.bench.meter.intake import ReadingIntake
    from reckoner.ui.bench.presenter import Wishes

RunChange: TypeAlias = "SessionCall[RunState | None]"
"""A change of the run, as one unit of work."""


class BenchAccess(Protocol):
    """What a panel may ask of the bench it stands on."""

    around: Surroundings
    meter: MeterDesk
    taker: ReadingIntake
    wishes: Wishes

    def do(
        self,
        change: RunChange,
        *,
        done: Callable[[], None] | None = None,
        refused: Callable[[str], None] | None = None,
        told: Callable[[Refused], None] | None = None,
        torque: float | None = None,
        by_hand: bool = True,
    ) -> None:
        """Commit a change of the run and show it."""
        ...

    def begin(self, tool_id: int, plan: RunPlan) -> None:
        """Put a tool on the bench as planned."""
        ...

    def open_run(self, run_id: int) -> None:
        """Open one run."""
        ...

    def leave_new_tool(self) -> None:
        """Add no tool; the run that was in front comes back."""
        ...

    def fault(self, sentence: str) -> None:
        """Say beside the primary button what cannot be done; empty clears it."""
        ...

    def offer(self) -> None:
        """The panel's action changed: look at it anew."""
        ...


@dataclass(frozen=True)
class Action:
    """The one thing that a panel offers now. ``words`` stand on the primary button and ``call`` does it; ``allowed`` False
    when it cannot be done yet, with ``why_not`` as its tooltip. ``held``: it acts while it is down (it has no call);
    ``pulls``: the key for pulling does so beside it."""

    words: str
    call: Callable[[], None] | None = None
    key: str = "Enter"
    allowed: bool = True
    why_not: str = ""
    held: bool = False
    pulls: bool = False


HOLD_TO_PULL = Action(tr("Hold to pull"), key="Space", held=True)


class Panel(QWidget):
    """One step's middle."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__()
        self.desk = desk
        self.theme = desk.around.theme

    def show_run(self, run: RunState) -> None:
        """Show the run as it stands."""

    def action(self) -> Action | None:
        """What can be done here now; None: nothing."""
        return None

    def arrive(self) -> None:
        """Put the focus where the hand goes first: here on the panel, so that Enter does the primary thing."""
        self.setFocus()

    def meter_changed(self) -> None:
        """The meter came, went or is another one."""

    def roomed(self, report: RoomReport) -> None:
        """The reference's own sensors say what the room is."""

    def beat(self) -> None:
        """A quarter of a second has passed."""
