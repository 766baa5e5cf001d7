"""What was changed or reported from this window, to be taken back and done again, the newest first."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.ui.work import call

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.shop.people.authorship import Act
    from reckoner.shop.register.editing import Command
    from reckoner.ui.place import Surroundings


class Undoable(Protocol):
    """What a person did: ``words`` name it."""

    @property
    def words(self) -> str: ...

    def take_back(self, session: Session, act: Act) -> Undoable:
        """Undo it; returns what undoes that."""
        ...


NOTHING = tr(
    "Nothing that you changed in the register today is left to take back. A signed run is amended at the Bench, a loan ends "
    "at the Desk, an event is answered on its tool's sheet."
)


class UndoStack:
    """One for a window. Each is told at the foot with the sentence of what it was."""

    def __init__(self, around: Surroundings) -> None:
        self._around = around
        self.done: list[Undoable] = []
        self.undone: list[Undoable] = []
        self._under_way = False
        self._recalled: int | None = None

    def did(self, undoable: Undoable, told: str = "") -> None:
        """A person has done something; ``told`` says what came of it."""
        self.done.append(undoable)
        self.undone.clear()
        self._around.say(
            tr(
                "Kept: {ended} {also}Ctrl+Z takes it back.",
                ended=_ended(undoable.words),
                also=f"{told} " if told else "",
            )
        )

    def forget(self) -> None:
        """Another database was opened: nothing of the one before can be taken back here."""
        self.done.clear()
        self.undone.clear()
        self._recalled = None

    def undo(self) -> None:
        """Take the newest command back; before this window was opened, what the same person changed in the register today."""
        person = self._around.person
        if self.done or person is None or self._recalled == person.id:
            self._turn(self.done, self.undone, tr("Taken back"), NOTHING)
        elif not self._under_way:
            from reckoner.shop.register.takingback import commands_of  # only when it is wanted

            self._recalled = person.id
            self._around.work.browse(call(commands_of, self._around.act()), self._recall, self._cannot)

    def _recall(self, found: tuple[Command, ...]) -> None:
        self.done[:0] = found
        self._turn(self.done, self.undone, tr("Taken back"), NOTHING)

    def _cannot(self, refusal: Refused) -> None:
        self._around.say(str(refusal))

    def redo(self) -> None:
        """Do again what was taken back last."""
        self._turn(self.undone, self.done, tr("Done again"), tr("Nothing was taken back that could be done again."))

    def _turn(self, source: list[Undoable], target: list[Undoable], word: str, nothing: str) -> None:
        if self._under_way:
            return
        if not source:
            self._around.say(nothing)
            return
        if self._around.person is None:
            self._around.say(tr("Choose who is at the bench first, at the top right."))
            return
        undoable, act = source[-1], self._around.act()
        self._under_way = True

        def turned(inverse: Undoable) -> None:
            source.remove(undoable)
            target.append(inverse)
            self._around.say(f"{word}: {_ended(undoable.words)}")

        def refused(refusal: Refused) -> None:
            source.remove(undoable)  # it can never be taken back again: something newer stands on it
            self._around.say(str(refusal))

        self._around.work.ask(call(undoable.take_back, act), turned, refused, ended=self._over)

    def _over(self) -> None:
        self._under_way = False


def _ended(words: str) -> str:
    """As a sentence: initials have their own stop."""
    return words if words.endswith(".") else f"{words}."
