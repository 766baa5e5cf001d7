"""Send, test here, or replace: a model's yearly cost by the owner's own figures, as a small picture."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.history.costs import UpkeepChoice, Yearly
from reckoner.core.quantities.printing import fixed
from reckoner.core.translation import tr, tr_count
from reckoner.shop.register.editing import the_shop
from reckoner.shop.using.costs import Upkeep, money, upkeep
from reckoner.store.terms import RegisterKind
from reckoner.ui.drawings.costbars import CostBar, CostBars
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.text import label

WIDE = 46 * GRID
FIGURES = ("fee", "freight", "days_away", "price", "bench_minutes")
SHOP_FIGURES = ("currency", "hour_cost")
NONE = tr("No model with tools yet. Add one under Tools.")
WAY_WORDS = {
    UpkeepChoice.SEND: tr("Send it away"),
    UpkeepChoice.HERE: tr("Test it here"),
    UpkeepChoice.REPLACE: tr("Buy a new one"),
}


class CostsShelf(PlaceShelf):
    """The models at the left, the picture and its figures at the right."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.found: tuple[Upkeep, ...] = ()
        theme = around.theme
        self.none = label(theme, NONE, Type.BODY, "quiet", wrap=True)
        self.list = LinesList(theme, tr("Models"), 500)
        self.list.changed.connect(self._chosen)
        left = column(self.none, self.list, gap=1, margin=2)
        left.setStretch(1, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.title = label(theme, "", Type.HEADLINE, wrap=True)
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.bars = CostBars(theme)
        self.assumed = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.figures = FactSheet(around, with_history=False, only=FIGURES)
        self.shop = FactSheet(around, with_history=False, only=SHOP_FIGURES)
        holder = QWidget()
        holder.setLayout(
            column(self.title, self.sentence, self.bars, self.assumed, self.figures, self.shop, 1, gap=2, margin=3)
        )
        self.setLayout(row(paper, surface(column(scrolling(holder))), gap=2))

    def refresh(self) -> None:
        """Reckon anew."""
        self.around.work.look(upkeep, self._show_costs)
        self.around.work.ask(the_shop, lambda row_id: self.shop.open(RegisterKind.SHOP, row_id))

    def _show_costs(self, found: tuple[Upkeep, ...]) -> None:
        self.found = found
        self.none.setVisible(not found)
        self.list.show_lines(tuple(_line(i, one) for i, one in enumerate(found)))
        self._chosen()

    def _chosen(self) -> None:
        chosen = self.list.chosen
        one = next((u for u in self.found if chosen and u.model_id == chosen[0].id), None)
        if one is None:
            return
        self.title.setText(one.model)
        self.sentence.setText(_sentence(one))
        dearest = max((way.cost or 0.0 for way in one.ways), default=0.0) or 1.0
        self.bars.show_bars(tuple(_bar(one, way, dearest) for way in one.ways))
        assumed = "; ".join(f"{WAY_WORDS[way.way].lower()}: {way.assumes}" for way in one.ways)
        self.assumed.setText(tr("A tool, a year, {told}. Assumed: {assumed}.", told=one.told, assumed=assumed))
        self.figures.open(RegisterKind.MODEL, one.model_id)


def _line(place: int, one: Upkeep) -> ListLine:
    best = one.cheapest
    tools = tr_count("1 tool", "{n} tools", one.tools)
    said = (
        tr("{lower}, {money} a year", lower=WAY_WORDS[best.way].lower(), money=money(best.cost or 0.0, one.currency))
        if best is not None
        else tr("no figures")
    )
    return ListLine(("", place), one.model_id, one.model, f"{tools} · {said}")


def _sentence(one: Upkeep) -> str:
    best = one.cheapest
    known = [way for way in one.ways if way.cost is not None]
    if best is None:
        return tr("Give your own figures below, and the ways stand here beside each other.")
    if len(known) < 2:
        return tr("Give the figures that are missing below, to compare it with.")
    days = tr(", {days} days without the tool", days=fixed(best.days or 0.0, 0 if (best.days or 0) >= 1 else 1))
    return tr(
        "{way_words}: {money} a tool and year{days}.",
        way_words=WAY_WORDS[best.way],
        money=money(best.cost or 0.0, one.currency),
        days=days,
    )


def _bar(one: Upkeep, way: Yearly, dearest: float) -> CostBar:
    if way.cost is None:
        return CostBar(WAY_WORDS[way.way], None, "", "", lacks=tr("not known: {list}", list=", ".join(way.lacks)))
    days = (
        tr("{days} days away", days=fixed(way.days or 0.0, 0 if (way.days or 0) >= 1 else 1))
        if way.days
        else tr("always there")
    )
    return CostBar(WAY_WORDS[way.way], way.cost / dearest, money(way.cost, one.currency), days, way is one.cheapest)
