"""The Tools place: a filter, the list of tags, and the chosen tool's sheet."""

from __future__ import annotations

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.shop.register import ToolCard, ToolSheet, cards, matching, sheet
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.theme import GRID, Type
from reckoner.ui.tools.sheet import Sheet
from reckoner.ui.tools.tools_list import ToolsList
from reckoner.ui.widgets.tag import TAG_SIZE
from reckoner.ui.widgets.text import label


class ToolsPlace(Place):
    """The register. ``show_tool`` opens one sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._all: tuple[ToolCard, ...] = ()
        self._wanted: int | None = None
        self._title = label(self.theme, "Tools", Type.HEADLINE)
        self._count = label(self.theme, "", Type.BODY, "quiet")
        self._filter = QLineEdit()
        self._filter.setPlaceholderText("Filter: click 200, held, Tower crew")
        self._filter.setAccessibleName("Filter the tools")
        self._filter.setFont(self.theme.font(Type.BODY))
        self._filter.setClearButtonEnabled(True)
        self._filter.textChanged.connect(self._apply_filter)
        self.list = ToolsList(self.theme, around.today)
        chooser = self.list.selectionModel()
        if chooser is not None:
            chooser.currentChanged.connect(self._chosen)
        self._none = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        left = QWidget()
        left.setLayout(column(column(self._title, self._count, gap=0), self._filter, self._none, self.list, gap=2))
        left.setFixedWidth(TAG_SIZE.width() + 2 * GRID)
        self.sheet = Sheet(self.theme)
        self.sheet.bench.connect(lambda tool_id: self.around.go_bench(tool_id))
        self.sheet.opened.connect(lambda run_id: self.around.go_run(run_id))
        self._paper = surface(column(self.sheet))
        self.setLayout(row(left, self._paper, gap=2, margin=2))
        self._paper.hide()

    def refresh(self) -> None:
        today = self.around.today
        self.around.work.ask(lambda session: cards(session, today), self._show_all)

    def show_tool(self, tool_id: int) -> None:
        """Open the sheet of ``tool_id``; the filter is cleared when it would hide it."""
        self._wanted = tool_id
        self._filter.clear()
        self.refresh()
        self.list.setFocus()

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
        shown = matching(self._all, self._filter.text())
        self.list.tools.show(shown)
        self._none.setVisible(not shown)
        self._none.setText(
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
        today, tool_id = self.around.today, card.tool.id
        self.around.work.ask(lambda session: sheet(session, tool_id, today), self._show_sheet)

    def _show_sheet(self, found: ToolSheet) -> None:
        current = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        if current is not None and current.tool.id == found.card.tool.id:
            self.sheet.show_sheet(found, self.around.today)
            self._paper.show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Down from the filter goes into the list."""
        if event is not None and event.key() == Qt.Key.Key_Down and self._filter.hasFocus():
            self.list.setFocus(Qt.FocusReason.TabFocusReason)
            return
        super().keyPressEvent(event)
