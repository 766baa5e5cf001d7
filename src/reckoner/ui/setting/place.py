"""The Setting place: set for a wanted torque, the job cards, and a job being worked through."""

from __future__ import annotations

from functools import cached_property

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.place import Surroundings
from reckoner.ui.places import Target
from reckoner.ui.setting.cards import CardsShelf
from reckoner.ui.setting.sheet import SettingSheet
from reckoner.ui.setting.work import WorkView
from reckoner.ui.shelves import ShelvedPlace

SET, CARDS = "sheet", "cards"
SHELVES = ((SET, tr("What to set")), (CARDS, tr("Job cards")))


class SettingPlace(ShelvedPlace):
    """A target's number is the tool to be set, its ``card`` and ``work`` a job card and a job."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("Setting"), SHELVES, behind=("work",))

    @cached_property
    def sheet(self) -> SettingSheet:
        return self.added(SettingSheet(self.around))

    @cached_property
    def cards(self) -> CardsShelf:
        cards = self.added(CardsShelf(self.around))
        cards.opened.connect(self._open)
        return cards

    @cached_property
    def work(self) -> WorkView:
        """A job being worked through stands in the place of the cards."""
        work = self.added(WorkView(self.around))
        work.waits.connect(self.expect)
        work.stands.connect(self.new_screen)
        work.left.connect(lambda: self.turn(CARDS))
        return work

    def arrive(self, target: Target) -> None:
        if target.work is not None:
            self._open(target.work)
            return
        if target.card is not None:
            self.cards.arrive(target.card)
            self.turn(CARDS)
            return
        if target.number or target.torque or target.page:
            self.put_in_front(target.page or SET)
        if target.number:
            self.sheet.arrive(target.number, target.fitted, target.hand)
        if target.torque:
            self.sheet.asked.torque.line.setText(target.torque)
        if self._works:
            self.new_screen()
        else:
            self.turn(self.heads.one)
        if self.shelf is self.sheet and not self.sheet.asked.torque.text:
            self.sheet.asked.torque.setFocus()

    @property
    def _works(self) -> bool:
        """A job is in front."""
        return isinstance(self.shelf, WorkView)

    def _open(self, work_id: int) -> None:
        self.work.open(work_id)
        self.heads.choose(CARDS)
        self._stack.setCurrentWidget(self.work)
        self.new_screen()
        self.work.button.setFocus()

    def changes(self, made: tuple[Change, ...]) -> None:
        here = {ChangeKind.GEAR, ChangeKind.TOOLS, ChangeKind.MODELS, ChangeKind.STANDINGS}
        if isinstance(self.shelf, CardsShelf):
            here = {ChangeKind.JOBS}
        if self.isVisible() and not self._works and any(c.kind in here for c in made):
            self.refresh()

    def strike(self) -> bool:
        if not self._works:
            return False
        self.work.strike()
        return True
