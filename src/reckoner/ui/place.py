"""What every place in the window offers, and what every place is given."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import OurFault
from reckoner.ui.theme import Theme
from reckoner.ui.work import Work

if TYPE_CHECKING:
    from reckoner.shop.acts import Act, PersonFacts
    from reckoner.shop.facts import ReferenceFacts


@dataclass
class Surroundings:
    """What places need: the look, the door to work, the clock, and who is at the bench.

    ``go_bench(tool_id)`` puts a tool on the bench, ``go_tool(tool_id)`` opens its sheet,
    ``go_run(run_id)`` opens a run on the bench, ``say(words)`` tells
    something at the foot of the window, ``meter_url(reference)`` turns a reference's link into what pyserial opens
    ("" when there is none).
    """

    theme: Theme
    work: Work
    now: Callable[[], datetime]
    meter_url: Callable[[ReferenceFacts], str]
    person: PersonFacts | None = None
    go_bench: Callable[[int], None] = lambda _id: None
    go_tool: Callable[[int], None] = lambda _id: None
    go_run: Callable[[int], None] = lambda _id: None
    say: Callable[[str], None] = lambda _words: None

    @property
    def today(self) -> date:
        return self.now().date()

    def act(self) -> Act:
        """Who acts, now. Raises OurFault when nobody is at the bench (the window asks for a person first)."""
        if self.person is None:
            raise OurFault("nobody is at the bench")
        from reckoner.shop.acts import Act

        return Act(self.person.id, self.now())


class Place(QWidget):
    """A place in the window."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        self.theme = around.theme

    def refresh(self) -> None:
        """Show what the database now holds."""

    def primary(self) -> None:
        """Do the primary thing."""

    def show_tool(self, tool_id: int) -> None:
        """Turn to one tool."""

    def show_unknown(self, number: str) -> None:
        """A number was scanned that is nobody's."""

    def show_run_id(self, run_id: int) -> None:
        """Turn to one run."""

    def strike(self) -> bool:
        """Backspace outside a field; True when the place did something with it."""
        return False

    def shut(self) -> None:
        """The window closes: let go of whatever is held."""
