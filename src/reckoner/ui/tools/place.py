"""The Tools place: a filter, the list of tags, and the chosen tool's sheet."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.register.cards import ToolCard, cards, cards_of
from reckoner.shop.register.finding import matching
from reckoner.shop.register.sheet import ToolSheet, sheet
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import GRID, Type
from reckoner.ui.tools.sheet import Sheet
from reckoner.ui.tools.tools_list import ToolsList
from reckoner.ui.widgets.tag import TAG_SIZE
from reckoner.ui.widgets.text import label


class ToolsPlace(Place):
    """The register; a target's tool opens its sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._all: tuple[ToolCard, ...] = ()
        self._wanted: int | None = None
        self._title = label(self.theme, "Tools", Type.HEADLINE)
        self._count = label(self.theme, "", Type.BODY, "quiet")
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Filter: click 200, held, Tower crew")
        self.filter.setAccessibleName("Filter the tools")
        self.filter.setFont(self.theme.font(Type.BODY))
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(self._apply_filter)
        self.list = ToolsList(self.theme, around.today)
        chooser = self.list.selectionModel()
        if chooser is not None:
            chooser.currentChanged.connect(self._chosen)
        self.none = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        left = QWidget()
        left.setLayout(column(column(self._title, self._count, gap=0), self.filter, self.none, self.list, gap=2))
        left.setFixedWidth(TAG_SIZE.width() + 2 * GRID)
        self.sheet = Sheet(self.theme)
        self.sheet.bench.connect(lambda tool_id: self.around.go(Target(PlaceId.BENCH, tool=tool_id)))
        self.sheet.opened.connect(lambda run_id: self.around.go(Target(PlaceId.BENCH, run=run_id)))
        self._paper = surface(column(self.sheet))
        self.setLayout(row(left, self._paper, gap=2, margin=2))
        self._paper.hide()

    def arrive(self, target: Target) -> None:
        """Open the sheet of the target's tool; the filter is cleared when it would hide it."""
        if target.tool is not None:
            self._wanted = target.tool
            self.filter.clear()
        self.around.work.ask(cards, self._show_all, ended=self.new_screen)
        if target.tool is not None:
            self.list.setFocus()

    def look_again(self) -> None:
        self.around.work.ask(cards, self._show_all, ended=self.new_screen)

    def changes(self, made: tuple[Change, ...]) -> None:
        """Ask for the tools that changed, and for the open sheet when it is of one of them."""
        if any(change.kind is ChangeKind.MODELS for change in made):
            self.around.work.ask(cards, self._show_all)
            return
        ids = {i for change in made if change.kind in (ChangeKind.TOOLS, ChangeKind.STANDINGS) for i in change.ids}
        if ids and self._all:
            self.around.work.ask(lambda session: cards_of(session, ids), lambda found: self._show_some(ids, found))

    def _show_some(self, ids: set[int], found: tuple[ToolCard, ...]) -> None:
        kept = [card for card in self._all if card.tool.id not in ids]
        self._show_all(tuple(sorted([*kept, *found], key=lambda card: card.tool.number)))
        current = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        if current is not None and current.tool.id in ids:
            self._ask_sheet(current.tool.id)

    def primary(self) -> None:
        self.sheet.put_on_bench()

    def _show_all(self, found: tuple[ToolCard, ...]) -> None:
        self._all = found
        held = sum(bool(c.held) for c in found)
        self._count.setText(f"{len(found)} in the register" + (f", {held} held" if held else ""))
        self._apply_filter()

    def _apply_filter(self) -> None:
        current = self._wanted
        if current is None:
            card = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
            current = card.tool.id if card is not None else None
        shown = matching(self._all, self.filter.text())
        self.list.tools.show(shown)
        self.none.setVisible(not shown)
        self.none.setText(
            "No tool matches. Clear the filter to see all."
            if self._all
            else "No tools yet. Read a register file in with “reckoner import FILE”."
        )
        line = self.list.tools.row_of(current) if current is not None else None
        if shown:
            self.list.setCurrentIndex(self.list.tools.index(line or 0))
            self.list.scrollTo(self.list.currentIndex())
        self._wanted = None

    def _chosen(self, current: QModelIndex, _previous: QModelIndex) -> None:
        card = current.data(Qt.ItemDataRole.UserRole)
        if card is None:
            self._paper.hide()
            return
        self._ask_sheet(card.tool.id)

    def _ask_sheet(self, tool_id: int) -> None:
        self.around.work.ask(lambda session: sheet(session, tool_id), self._show_sheet)

    def _show_sheet(self, found: ToolSheet) -> None:
        current = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        if current is not None and current.tool.id == found.card.tool.id:
            self.sheet.show_sheet(found, self.around.today)
            self._paper.show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Down from the filter goes into the list."""
        if event is not None and event.key() == Qt.Key.Key_Down and self.filter.hasFocus():
            self.list.setFocus(Qt.FocusReason.TabFocusReason)
            return
        super().keyPressEvent(event)
