"""What every place in the window offers, and what every place is given."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PyQt6.QtCore import QEvent, QObject
from PyQt6.QtGui import QPaintEvent
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import OurFault
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.translation import tr
from reckoner.store.station import Station
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme
from reckoner.ui.work import Work

if TYPE_CHECKING:
    from reckoner.meters.wrench import SimulatedTries
    from reckoner.shop.changes import Change
    from reckoner.shop.facts.judged import ReferenceFacts
    from reckoner.shop.people.authorship import Act
    from reckoner.shop.people.present import PersonFacts
    from reckoner.shop.records.losses import BackupAhead
    from reckoner.ui.undo import UndoStack
    from reckoner.ui.widgets.entry import EntryField


@dataclass
class Surroundings:
    """What places need: the look, the door to work, this station's settings, the clock, and who is at the bench.

    ``put_back(path)`` puts a backup in the place of what is open. ``go(target)`` goes somewhere, ``say(words)`` tells
    something at the foot of the window, ``saved(words, path)`` where a file was written, to be opened from there,
    ``report(tool_id)`` asks what happened to a tool, ``meter_url(reference, link)`` turns a reference's link into what
    pyserial opens ("" when there is none); ``tries`` makes the simulated tools that answer under weights (None: nobody but
    the person does). ``folder`` holds the database; ``file_words`` say what is known of the file, ``older`` which backup
    knows more than it does; ``own`` are the units in which the shop works where no tool says otherwise;
    not ``seated``: the ``person`` has to prove anew who sits here, and nothing is kept meanwhile.
    """

    theme: Theme
    work: Work
    station: Station
    now: Callable[[], datetime]
    meter_url: Callable[[ReferenceFacts, str], str]
    tries: Callable[[], SimulatedTries] | None = None
    person: PersonFacts | None = None
    seated: bool = True
    own: OwnUnits = METRIC
    folder: Path = Path()
    file_words: str = tr("The database is being read through.")
    older: BackupAhead | None = None
    go: Callable[[Target], None] = lambda _target: None
    say: Callable[[str], None] = lambda _words: None
    saved: Callable[[str, Path], None] = lambda _words, _path: None
    report: Callable[[int], None] = lambda _tool_id: None
    put_back: Callable[[Path], None] = lambda _path: None

    @cached_property
    def undo_stack(self) -> UndoStack:
        """What was changed in the register from here."""
        from reckoner.ui.undo import UndoStack  # only when it is wanted

        return UndoStack(self)

    @property
    def today(self) -> date:
        return self.now().date()

    def work_in(self, own: OwnUnits) -> None:
        """The shop works in other units from now on."""
        self.own = own

    def act(self) -> Act:
        """Who acts, now. Raises OurFault when nobody is at the bench (the window asks for a person first)."""
        if self.person is None:
            raise OurFault(tr("nobody is at the bench"))
        from reckoner.shop.people.authorship import Act  # loads numpy

        return Act(self.person.id, self.now())


class Place(QWidget):
    """A place in the window.

    A key counts for what the eye has seen: what Enter, Space and Backspace would do is ``seen`` once the screen that offers
    it was painted. A place calls ``new_screen`` when they begin to mean something else, and ``expect`` while it does not know
    yet what they will mean. A tool that is found at the top line, or scanned, comes to the place that ``found_tools_go_to``.
    """

    found_tools_go_to = PlaceId.TOOLS

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        self.theme = around.theme
        self._stands = False
        self._painted = False

    def arrive(self, target: Target) -> None:
        """Turn to what ``target`` names, or show what the database now holds."""

    def make_ahead(self) -> Iterator[None]:
        """Make, piece by piece, what stands here first and is not made with the place."""
        yield from ()

    def needs_person(self, _target: Target) -> bool:
        """Whether somebody has to be at the bench to go there."""
        return False

    def changes(self, _made: tuple[Change, ...]) -> None:
        """Something was changed: refresh what it touches."""

    def file_checked(self) -> None:
        """The database was read through; ``around.file_words`` says with what result."""

    def refresh(self) -> None:
        """Another program wrote: show what the database now holds."""

    @property
    def tool_in_front(self) -> int | None:
        """The id of the tool that the person has before them; None when it is none in particular."""
        return None

    def person_changed(self) -> None:
        """Somebody else is at the bench."""

    def primary(self) -> None:
        """Do the primary thing."""

    def awaited(self, focused: QWidget | None = None) -> EntryField[Any] | None:
        """The field in which a number is awaited, that digits typed outside of any field begin: the one beside the usual
        values on which the focus is, else one that waits; None where none is."""
        from reckoner.ui.widgets.entry import EntryField  # only when it is wanted
        from reckoner.ui.widgets.form import UsualEntry

        for entry in self.findChildren(UsualEntry) if focused is not None else ():
            if entry.usual.isAncestorOf(focused):
                return entry
        fields = [f for f in self.findChildren(EntryField) if f.awaits_number and f.isVisible() and f.isEnabled()]
        return next((field for field in fields if not field.text), fields[0] if fields else None)

    def strike(self) -> bool:
        """Backspace outside a field; True when the place did something with it."""
        return False

    def key(self, _watched: QObject, _event: QEvent) -> bool:
        """Another key, wherever the focus is in the place's windows; True when it was the place's."""
        return False

    def shut(self) -> None:
        """The window closes: let go of whatever is held."""

    @property
    def stands(self) -> bool:
        """Whether it is known what keys mean here: nothing is being looked up that will stand here next."""
        return self._stands

    @property
    def seen(self) -> bool:
        """Whether the screen that stands was painted."""
        return self._stands and self._painted

    def expect(self) -> None:
        """What comes next is not known yet; keys mean nothing until it stands."""
        self._stands = False

    def new_screen(self) -> None:
        """From now on the keys mean what this screen says, once it was painted."""
        self._stands, self._painted = True, False
        self.update()

    def mark_seen(self) -> None:
        """The screen that stands was painted, here or in another window of the place."""
        self._painted = True

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        self.mark_seen()
