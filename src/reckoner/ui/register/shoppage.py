"""The shop itself: what holds for all of it, and its files."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.register.editing import the_shop
from reckoner.store.terms import RegisterKind
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.register.factsheet import FactSheet
from reckoner.ui.register.files import Files
from reckoner.ui.register.shelf import LIST_WIDTH
from reckoner.ui.theme import Type
from reckoner.ui.widgets.text import label

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

    def look_again(self) -> None:
        """Ask for it anew."""
        self._around.work.ask(the_shop, self._open)

    def _open(self, row_id: int) -> None:
        self.sheet.open(RegisterKind.SHOP, row_id)
        self.files.open(RegisterKind.SHOP, row_id)
