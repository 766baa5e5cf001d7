"""The Desk place: lend and take back, choose a tool, laboratory trips, reviews, costs, each a shelf."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.desk.away import AwayShelf
from reckoner.ui.desk.choosing import ChooseShelf
from reckoner.ui.desk.costs import CostsShelf
from reckoner.ui.desk.lending import LendShelf
from reckoner.ui.desk.reviews import ReviewsShelf
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import Target
from reckoner.ui.widgets.chips import Chips

LEND, CHOOSE, AWAY, REVIEWS, COSTS = "lend", "choose", "away", "reviews", "costs"
SHELVES = (
    (LEND, tr("Lend and take back")),
    (CHOOSE, tr("Which tool?")),
    (AWAY, tr("At a laboratory")),
    (REVIEWS, tr("What was spoiled?")),
    (COSTS, tr("Send, test, replace")),
)


class DeskPlace(Place):
    """A target's number is lent or taken back, its torque asks for a tool, its review is opened."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.heads = Chips(self.theme, tr("The desk"))
        self.heads.offer(SHELVES, [LEND])
        self.heads.chosen.connect(lambda: self._turn(self.heads.one))
        self.lending = LendShelf(around)
        self.choosing = ChooseShelf(around)
        self.away = AwayShelf(around)
        self.reviews = ReviewsShelf(around)
        self.costs = CostsShelf(around)
        self._shelves: dict[str, QWidget] = {
            LEND: self.lending,
            CHOOSE: self.choosing,
            AWAY: self.away,
            REVIEWS: self.reviews,
            COSTS: self.costs,
        }
        self._stack = QStackedWidget()
        for shelf in self._shelves.values():
            self._stack.addWidget(shelf)
        layout = column(self.heads, self._stack, gap=2, margin=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def arrive(self, target: Target) -> None:
        if target.torque:
            self._turn(CHOOSE)
            self.choosing.arrive(target.torque, target.fitted or (), target.hand)
        elif target.card is not None:
            self._turn(LEND)
            self.lending.lend_for(target.card)
        elif target.review is not None:
            self._turn(REVIEWS)
            self.reviews.arrive(target.review, target.tool)
        elif target.tool is not None:
            self._turn(AWAY)
            self.away.arrive(target.tool)
        elif target.number:
            self._turn(LEND)
            self.lending.take(target.number)
        else:
            self._turn(self.heads.one)
        if self._stack.currentWidget() is self.lending:
            self.lending.scan.setFocus()

    def _turn(self, shelf: str) -> None:
        self.heads.choose(shelf)
        self._stack.setCurrentWidget(self._shelves[shelf])
        self.refresh()
        self.new_screen()

    def refresh(self) -> None:
        shelf = self._stack.currentWidget()
        if isinstance(shelf, LendShelf | ChooseShelf | AwayShelf | ReviewsShelf | CostsShelf):
            shelf.refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        cares = (ChangeKind.STANDINGS, ChangeKind.REVIEWS, ChangeKind.MODELS, ChangeKind.SHOP)
        if self.isVisible() and any(change.kind in cares for change in made):
            self.refresh()

    def primary(self) -> None:
        shelf = self._stack.currentWidget()
        if isinstance(shelf, LendShelf | ChooseShelf | AwayShelf | ReviewsShelf):
            shelf.primary()

    def print(self) -> None:
        """Ctrl+P: the review in front."""
        if self._stack.currentWidget() is self.reviews:
            self.reviews.print()
