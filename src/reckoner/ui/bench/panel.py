"""What every panel in the middle of the bench offers."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol, TypeAlias

from PyQt6.QtWidgets import QWidget

from reckoner.shop.acts import Act
from reckoner.shop.run import RunState
from reckoner.ui.place import Surroundings

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

Change: TypeAlias = "Callable[[Session, Act], RunState]"


class Desk(Protocol):
    """What a panel may ask of the bench it stands on."""

    around: Surroundings

    def do(self, change: Change, *, refused: Callable[[str], None] | None = None) -> None:
        """Commit a change of the run and show it."""
        ...

    def meter_zero(self) -> float | None:
        """What a streaming meter at rest shows, in N·m; None without one."""
        ...

    def meter_send(self, command: str) -> None: ...

    def update_primary(self) -> None:
        """The panel's primary action changed its words."""
        ...


@dataclass(frozen=True)
class Primary:
    """The primary button as a panel wants it; ``held`` when it acts while it is down."""

    words: str
    key: str = "Enter"
    enabled: bool = True
    held: bool = False


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

    def meter_changed(self, _news: Any = None) -> None:
        """The meter came, went or showed something."""
