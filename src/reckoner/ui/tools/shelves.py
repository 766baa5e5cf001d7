"""What stands beside the tools in their place: models, adapters, people, and the shop itself.

To add a shelf: its kind's name in ``SHELVES``, and what lists and adds its rows in ``OTHER_SHELVES``.

What was characterised of a model, above its fields.

The shop itself: what holds for all of it, and its files.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.gear import gear_lines
from reckoner.shop.register.sheet import of_model
from reckoner.shop.register.shelves import model_lines, people_lines
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.adders import GearAdder, ModelAdder, PersonAdder
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.register.files import Files
from reckoner.ui.register.passphrase import Passphrase
from reckoner.ui.register.shelf import LIST_WIDTH, AboveFields, RowAdder, Shelf, ShelfSpec
from reckoner.ui.theme import Type
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class CharacterisedModel(AboveFields):
    """A line of words."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self.words = label(around.theme, "", Type.BODY, "quiet", wrap=True)
        self.setLayout(column(self.words, gap=0))

    def show_row(self, row_id: int) -> None:
        self._around.work.look(call(of_model, row_id), self.words.setText)


SHELVES = {
    RegisterKind.TOOL: tr("Tools"),
    RegisterKind.MODEL: tr("Models"),
    RegisterKind.ADAPTER: tr("Adapters"),
    RegisterKind.PERSON: tr("People"),
    RegisterKind.SHOP: tr("Shop"),
}

OTHER_SHELVES: dict[RegisterKind, tuple[ShelfSpec, Callable[[Surroundings, Shelf], RowAdder]]] = {
    RegisterKind.MODEL: (
        ShelfSpec(
            RegisterKind.MODEL,
            tr("Models"),
            model_lines,
            (ChangeKind.MODELS, ChangeKind.TOOLS),
            tr("No model yet. Add one by its picture, or add a tool and describe it."),
            tr("Add a model…"),
        ),
        ModelAdder,
    ),
    RegisterKind.ADAPTER: (
        ShelfSpec(
            RegisterKind.ADAPTER,
            tr("Adapters"),
            call(gear_lines, RegisterKind.ADAPTER),
            (ChangeKind.GEAR,),
            tr("No adapter yet. Add a crow-foot or an offset ring, with its length between the centres."),
            tr("Add an adapter…"),
        ),
        partial(GearAdder, RegisterKind.ADAPTER),
    ),
    RegisterKind.PERSON: (
        ShelfSpec(
            RegisterKind.PERSON,
            tr("People"),
            people_lines,
            (ChangeKind.PEOPLE,),
            tr("Nobody yet. Add whoever signs."),
            tr("Add somebody…"),
        ),
        PersonAdder,
    ),
}
"""What stands beside the tools, and what adds a row there."""

ABOVE: dict[RegisterKind, Callable[[Surroundings], AboveFields]] = {
    RegisterKind.MODEL: CharacterisedModel,
    RegisterKind.PERSON: Passphrase,
}
"""What stands above the fields of a row."""


LOGO = tr("A picture called logo (PNG or JPEG) stands at the head of certificates.")


class ShopPage(QWidget):
    """``head`` stands above it."""

    def __init__(self, around: Surroundings, head: QWidget) -> None:
        super().__init__()
        self._around = around
        self.sheet = FactSheet(around)
        self.files = Files(around)
        words = label(around.theme, LOGO, Type.BODY, "quiet", wrap=True)
        holder = QWidget()
        holder.setLayout(column(self.sheet, self.files, words, 1, gap=2, margin=3))
        left = QWidget()
        left.setLayout(column(head, 1, gap=1))
        left.setFixedWidth(LIST_WIDTH)
        self.setLayout(row(left, surface(column(scrolling(holder))), gap=2))

    def refresh(self) -> None:
        """Ask for it anew."""
        self._around.work.ask(the_shop, self._open)

    def _open(self, row_id: int) -> None:
        self.sheet.open(RegisterKind.SHOP, row_id)
        self.files.open(RegisterKind.SHOP, row_id)
