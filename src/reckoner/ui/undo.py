"""What was changed or reported from this window, to be taken back and done again, the newest first."""

from __future__ import annotations

from dataclasses import dataclass
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


@dataclass(frozen=True)
class Done:
    """What was done, by ``who`` (a person's id): taking back is one's own."""

    who: int | None
    what: Undoable


class UndoStack:
    """One for a window. Each is told at the foot with the sentence of what it was."""

    def __init__(self, around: Surroundings) -> None:
        self._around = around
        self.done: list[Done] = []
        self.undone: list[Done] = []
        self._under_way = False
        self._recalled: set[int] = set()

    def did(self, undoable: Undoable, told: str = "") -> None:
        """A person has done something; ``told`` says what came of it."""
        person = self._around.person
        who = person.id if person is not None else None
        self.done.append(Done(who, undoable))
        self.undone = [one for one in self.undone if one.who != who]
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
        self._recalled.clear()

    def undo(self) -> None:
        """Take the newest command back; before this window was opened, what the same person changed in the register today."""
        person = self._around.person
        if person is None or self._newest(self.done) is not None or person.id in self._recalled:
            self._turn(self.done, self.undone, tr("Taken back"), NOTHING)
        elif not self._under_way:
            from reckoner.shop.register.takingback import commands_of  # only when it is wanted

            self._recalled.add(person.id)
            who = person.id
            self._around.work.browse(
                call(commands_of, self._around.act()), lambda found: self._recall(who, found), self._cannot
            )

    def _newest(self, source: list[Done]) -> Done | None:
        """The newest that the person at the bench did."""
        person = self._around.person
        return next((one for one in reversed(source) if person is not None and one.who in (None, person.id)), None)

    def _recall(self, who: int, found: tuple[Command, ...]) -> None:
        self.done[:0] = [Done(who, command) for command in found]
        self._turn(self.done, self.undone, tr("Taken back"), NOTHING)

    def _cannot(self, refusal: Refused) -> None:
        self._around.say(str(refusal))

    def redo(self) -> None:
        """Do again what was taken back last."""
        self._turn(self.undone, self.done, tr("Done again"), tr("Nothing was taken back that could be done again."))

    def _turn(self, source: list[Done], target: list[Done], word: str, nothing: str) -> None:
        if self._under_way:
            return
        if source and self._around.person is None:
            self._around.say(tr("Choose who is at the bench first, at the top right."))
            return
        newest = self._newest(source)
        if newest is None:
            self._around.say(nothing)
            return
        undoable, act = newest.what, self._around.act()
        self._under_way = True

        def turned(inverse: Undoable) -> None:
            source.remove(newest)
            target.append(Done(act.person_id, inverse))
            self._around.say(f"{word}: {_ended(undoable.words)}")

        def refused(refusal: Refused) -> None:
            source.remove(newest)  # it can never be taken back again: something newer stands on it
            self._around.say(str(refusal))

        self._around.work.ask(call(undoable.take_back, act), turned, refused, ended=self._over)

    def _over(self) -> None:
        self._under_way = False


def _ended(words: str) -> str:
    """As a sentence: initials have their own stop."""
    return words if words.endswith(".") else f"{words}."
