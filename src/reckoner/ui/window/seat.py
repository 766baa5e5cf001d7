"""Who sits at the bench: asked of the register, chosen at the top right, proved by a passphrase where the shop asks."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.ui.work import both

if TYPE_CHECKING:
    from reckoner.shop.people.present import PersonFacts, SittingRule
    from reckoner.ui.window.main_window import Window
    from reckoner.ui.window.sitting import SittingDown


class Seat(QObject):
    """The seat of a ``window``. Signals ``asked()`` once it is known who there is, ``taken()`` when somebody else sits there.
    ``sitting`` covers the window while nobody has proved who sits (None: it was not needed yet)."""

    asked = pyqtSignal()
    taken = pyqtSignal()

    def __init__(self, window: Window) -> None:
        super().__init__(window)
        self._window, self._around = window, window.around
        self.sitting: SittingDown | None = None
        window.who.chosen.connect(self._choose)
        window.who.left.connect(lambda: self._cover().lock(""))

    def ask_people(self) -> None:
        """Who works here, and whether sitting down asks for a passphrase."""
        from reckoner.shop.people.present import people, sitting  # only when it is wanted

        self._around.work.look(both(people, sitting), lambda found: self._show_people(*found))

    def be(self, person: PersonFacts) -> None:
        """``person`` is at the bench from now on."""
        self._around.person = person
        self._window.who.show_person(person)
        self.taken.emit()

    def leave(self) -> None:
        """Nobody sits there: another database will be opened."""
        self._around.person = None
        self._window.who.known = False

    def tell(self, words: str) -> None:
        """Something that is said while nothing below can be seen."""
        if self.sitting is not None and not self.sitting.isHidden():
            self.sitting.tell(words)

    def _show_people(self, found: tuple[PersonFacts, ...], rule: SittingRule) -> None:
        self._window.who.offer(found, may_leave=rule.asks)
        if rule.asks or self.sitting is not None:
            self._cover().follow(rule, found)
        here = self._around.person
        known = next((p for p in found if here is not None and p.id == here.id), None)
        if known is not None and known != here:
            self.be(known)  # what the person may do has changed
        elif found and known is None and rule.asks:
            self._cover().ask(None)
        elif found and known is None:
            self.be(found[0])
        self.asked.emit()

    def _cover(self) -> SittingDown:
        if self.sitting is None:
            from reckoner.ui.window.sitting import SittingDown  # only when it is wanted

            self.sitting = SittingDown(self._window, self.be)
        return self.sitting

    def _choose(self, person: PersonFacts) -> None:
        """Somebody was chosen at the top right."""
        if self.sitting is not None and self.sitting.rule.asks:
            self.sitting.ask(person, may_leave=self._around.person is not None)
        else:
            self.be(person)
