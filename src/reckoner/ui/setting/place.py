"""The Setting place: set for a wanted torque, the job cards, and a job being worked through."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import Target
from reckoner.ui.setting.cards import CardsShelf
from reckoner.ui.setting.sheet import SettingSheet
from reckoner.ui.setting.work import WorkView
from reckoner.ui.widgets.chips import Chips

SET, CARDS = "set", "cards"
SHELVES = ((SET, tr("What to set")), (CARDS, tr("Job cards")))


class SettingPlace(Place):
    """A target's number is the tool to be set, its ``card`` and ``work`` a job card and a job."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.heads = Chips(self.theme, tr("Setting"))
        self.heads.offer(SHELVES, [SET])
        self.heads.chosen.connect(lambda: self._turn(self.sheet if self.heads.one == SET else self.cards))
        self.sheet = SettingSheet(around)
        self.cards = CardsShelf(around)
        self.work = WorkView(around)
        self.cards.opened.connect(self._open)
        self.work.waits.connect(self.expect)
        self.work.stands.connect(self.new_screen)
        self.work.left.connect(lambda: self._turn(self.cards))
        self._stack = QStackedWidget()
        for shelf in (self.sheet, self.cards, self.work):
            self._stack.addWidget(shelf)
        layout = column(self.heads, self._stack, gap=2, margin=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def arrive(self, target: Target) -> None:
        if target.work is not None:
            self._open(target.work)
            return
        if target.card is not None:
            self.cards.arrive(target.card)
            self._turn(self.cards)
            return
        if target.number or target.torque:
            self._stack.setCurrentWidget(self.sheet)
        if target.number:
            self.sheet.arrive(target.number, target.fitted, target.hand)
        if target.torque:
            self.sheet.asked.torque.line.setText(target.torque)
        shelf = self._stack.currentWidget()
        self._turn(shelf if shelf is not None else self.sheet)
        if shelf is self.sheet and not self.sheet.asked.torque.text:
            self.sheet.asked.torque.setFocus()

    def _open(self, work_id: int) -> None:
        self.work.open(work_id)
        self._turn(self.work)
        self.work.button.setFocus()

    def _turn(self, shelf: QWidget) -> None:
        self.heads.choose(SET if shelf is self.sheet else CARDS)
        self._stack.setCurrentWidget(shelf)
        if shelf is not self.work:
            self.refresh()
        self.new_screen()

    def refresh(self) -> None:
        shelf = self._stack.currentWidget()
        if isinstance(shelf, SettingSheet | CardsShelf | WorkView):
            shelf.refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        here = {ChangeKind.GEAR, ChangeKind.TOOLS, ChangeKind.MODELS, ChangeKind.STANDINGS}
        if self._stack.currentWidget() is self.cards:
            here = {ChangeKind.JOBS}
        if self.isVisible() and self._stack.currentWidget() is not self.work and any(c.kind in here for c in made):
            self.refresh()

    def primary(self) -> None:
        shelf = self._stack.currentWidget()
        if isinstance(shelf, CardsShelf | WorkView):
            shelf.primary()

    def strike(self) -> bool:
        if self._stack.currentWidget() is not self.work:
            return False
        self.work.strike()
        return True

    def print(self) -> None:
        """Ctrl+P: the card, or the job in front."""
        shelf = self._stack.currentWidget()
        if isinstance(shelf, CardsShelf | WorkView):
            shelf.print()
