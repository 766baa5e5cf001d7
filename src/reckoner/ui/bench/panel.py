"""What every panel in the middle of the bench offers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Protocol, TypeAlias

from PyQt6.QtWidgets import QWidget

from reckoner.core.stream import Signal
from reckoner.shop.acts import Act
from reckoner.shop.planning import Plan
from reckoner.shop.run import RunState
from reckoner.ui.meterwatch import PullReport
from reckoner.ui.place import Surroundings

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.ui.bench.meterdesk import MeterDesk
    from reckoner.ui.sounds import Sounds

Change: TypeAlias = "Callable[[Session, Act], RunState | None]"


class Desk(Protocol):
    """What a panel may ask of the bench it stands on."""

    around: Surroundings
    meter: MeterDesk
    sounds: Sounds

    def do(self, change: Change, *, refused: Callable[[str], None] | None = None) -> None:
        """Commit a change of the run and show it."""
        ...

    def meter_zero(self) -> float | None:
        """What a streaming meter at rest shows, in N·m; None without one."""
        ...

    def begin(self, tool_id: int, plan: Plan) -> None:
        """Put a tool on the bench as planned."""
        ...

    def show_run_id(self, run_id: int) -> None:
        """Open one run."""
        ...

    def fault(self, sentence: str) -> None:
        """Say beside the primary button what cannot be done; empty clears it."""
        ...

    def update_primary(self) -> None:
        """The panel's primary action changed its words."""
        ...


@dataclass(frozen=True)
class Primary:
    """The primary button as a panel wants it; ``held`` when it acts while it is down, ``pulls`` when the key for pulling does
    so beside it."""

    words: str
    key: str = "Enter"
    enabled: bool = True
    held: bool = False
    pulls: bool = False


class Panel(QWidget):
    """One step's middle."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.theme = desk.around.theme

    def show_run(self, run: RunState) -> None:
        """Show the run as it stands."""

    def primary_state(self) -> Primary | None:
        """How the primary button should look; None: there is nothing to do here."""
        return None

    def primary(self) -> None:
        """Do it."""

    def arrive(self) -> None:
        """Put the focus where the hand goes first: here on the panel, so that Enter does the primary thing."""
        self.setFocus()

    def meter_changed(self) -> None:
        """The meter came, went or is another one."""

    def beat(self) -> None:
        """A quarter of a second has passed."""

    def signalled(self, signal: Signal, ago: float, turned: str | None) -> None:
        """The meter found a signal, ``ago`` seconds before its newest sample."""

    def pulled(self, report: PullReport) -> None:
        """A pull is over."""

    def valued(self, torque: float) -> None:
        """The meter sent a value in N·m that it caught itself."""
