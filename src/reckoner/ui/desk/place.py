"""The Desk place: lend and take back, choose a tool, laboratory trips, reviews, costs, each a shelf."""

from __future__ import annotations

from functools import cached_property

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.desk.away import AwayShelf
from reckoner.ui.desk.choosing import ChooseShelf
from reckoner.ui.desk.costs import CostsShelf
from reckoner.ui.desk.lending import LendShelf
from reckoner.ui.desk.reviews import ReviewsShelf
from reckoner.ui.place import Surroundings
from reckoner.ui.places import Target
from reckoner.ui.shelves import ShelvedPlace

LEND, CHOOSE, AWAY, REVIEWS, COSTS = "lending", "choosing", "away", "reviews", "costs"
SHELVES = (
    (LEND, tr("Lend and take back")),
    (CHOOSE, tr("Which tool?")),
    (AWAY, tr("At a laboratory")),
    (REVIEWS, tr("What was spoiled?")),
    (COSTS, tr("Send, test, replace")),
)


class DeskPlace(ShelvedPlace):
    """A target's number is lent or taken back, its torque asks for a tool, its review is opened."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("The desk"), SHELVES)

    @cached_property
    def lending(self) -> LendShelf:
        return self.added(LendShelf(self.around))

    @cached_property
    def choosing(self) -> ChooseShelf:
        return self.added(ChooseShelf(self.around))

    @cached_property
    def away(self) -> AwayShelf:
        return self.added(AwayShelf(self.around))

    @cached_property
    def reviews(self) -> ReviewsShelf:
        return self.added(ReviewsShelf(self.around))

    @cached_property
    def costs(self) -> CostsShelf:
        return self.added(CostsShelf(self.around))

    def arrive(self, target: Target) -> None:
        if target.torque:
            self.turn(CHOOSE)
            self.choosing.arrive(target.torque, target.fitted or (), target.hand)
        elif target.card is not None:
            self.turn(LEND)
            self.lending.lend_for(target.card)
        elif target.review is not None:
            self.turn(REVIEWS)
            self.reviews.arrive(target.review, target.tool)
        elif target.tool is not None:
            self.turn(AWAY)
            self.away.arrive(target.tool)
        elif target.number:
            self.turn(LEND)
            self.lending.take(target.number)
        else:
            self.turn(target.page or self.heads.one)
        if self.shelf is self.lending:
            self.lending.scan.setFocus()

    def changes(self, made: tuple[Change, ...]) -> None:
        cares = (ChangeKind.STANDINGS, ChangeKind.REVIEWS, ChangeKind.MODELS, ChangeKind.SHOP)
        if self.isVisible() and any(change.kind in cares for change in made):
            self.refresh()
