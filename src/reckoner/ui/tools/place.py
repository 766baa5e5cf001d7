"""The Tools place: a filter, the list of tags, and the chosen tool's sheet."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import ToolsFound, count_of, find, page_of
from reckoner.shop.register.sheet import ToolSheet, sheet
from reckoner.ui.latest import Latest
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.sheet import Sheet
from reckoner.ui.tools.tools_list import ToolsList
from reckoner.ui.widgets.tag import TAG_SIZE
from reckoner.ui.widgets.text import label

CARES = (ChangeKind.TOOLS, ChangeKind.STANDINGS, ChangeKind.MODELS)
"""The changes that touch what is listed."""


class ToolsPlace(Place):
    """The register; a target's tool opens its sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._wanted: int | None = None
        self._shown = ""
        self._sheet_of = 0
        self._asking, self._reading = Latest(around.work), Latest(around.work)
        self._title = label(self.theme, "Tools", Type.HEADLINE)
        self._count = label(self.theme, "", Type.BODY, "quiet")
        self.filter = QLineEdit()
        self.filter.setPlaceholderText("Filter: click 200, held, Tower crew")
        self.filter.setAccessibleName("Filter the tools")
        self.filter.setFont(self.theme.font(Type.BODY))
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(lambda _text: self._find())
        self.list = ToolsList(self.theme, around.today)
        self.list.tools.wanted.connect(self._page)
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
            self.filter.blockSignals(True)
            self.filter.clear()
            self.filter.blockSignals(False)
        self.look_again()
        if target.tool is not None:
            self.list.setFocus()

    def look_again(self) -> None:
        self._sheet_of = 0  # what it shows may be another one by now
        self._find(self.new_screen)

    def changes(self, made: tuple[Change, ...]) -> None:
        """Ask for the list anew, and for the open sheet when its tool changed; nothing while another place is in front."""
        if not self.isVisible():
            return
        if any(change.kind in CARES for change in made):
            self._find()
        ids = {i for change in made if change.kind in (ChangeKind.TOOLS, ChangeKind.STANDINGS) for i in change.ids}
        current = self._current()
        if current is not None and current.tool.id in ids:
            self._ask_sheet(current.tool.id)

    def primary(self) -> None:
        self.sheet.put_on_bench()

    def _current(self) -> ToolCard | None:
        found: ToolCard | None = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        return found

    def _find(self, ended: Callable[[], None] | None = None) -> None:
        """Ask what the filter finds; the tool that is chosen stays chosen where it is found again."""
        text, today, current = self.filter.text(), self.around.today, self._current()
        wanted = self._wanted if self._wanted is not None else current.tool.id if current is not None else None
        self._asking.look(
            lambda reader: find(reader, text, today, wanted), lambda found: self._show(text, found), ended=ended
        )

    def _show(self, text: str, found: ToolsFound) -> None:
        self._shown = text
        self._wanted = None
        tools = "1 in the register" if found.tools == 1 else f"{found.tools} in the register"
        self._count.setText(tools + (f", {found.held} held" if found.held else ""))
        self.list.tools.show(found)
        if not found.counted:
            self._ask_count(text)
        self.none.setVisible(not found.count)
        self.none.setText(
            "No tool matches. Clear the filter to see all."
            if found.tools
            else "No tools yet. Read a register file in with “reckoner import FILE”."
        )
        if not found.count:
            self._paper.hide()
            return
        self.list.setCurrentIndex(self.list.tools.index(found.row or 0))
        self.list.scrollTo(self.list.currentIndex())

    def _ask_count(self, text: str) -> None:
        """How many there are is told once the first of them stand."""
        today = self.around.today

        def grow(count: int) -> None:
            if text == self._shown:
                self.list.tools.grow(count)

        self.around.work.look(lambda reader: count_of(reader, text, today), grow)

    def _page(self, start: int) -> None:
        """Read on where the list is being looked at."""
        text, today = self._shown, self.around.today
        self.around.work.look(
            lambda reader: page_of(reader, text, today, start), lambda found: self._take(text, start, found)
        )

    def _take(self, text: str, start: int, found: tuple[ToolCard, ...]) -> None:
        if text != self._shown:
            return
        self.list.tools.take(start, found)
        self._chosen(self.list.currentIndex(), QModelIndex())

    def _chosen(self, current: QModelIndex, _previous: QModelIndex) -> None:
        card = current.data(Qt.ItemDataRole.UserRole)
        if card is not None and card.tool.id != self._sheet_of:
            self._ask_sheet(card.tool.id)

    def _ask_sheet(self, tool_id: int) -> None:
        self._sheet_of = tool_id
        self._reading.look(lambda reader: sheet(reader, tool_id), self._show_sheet)

    def _show_sheet(self, found: ToolSheet) -> None:
        if self._sheet_of == found.card.tool.id and self.list.tools.rowCount():
            self.sheet.show_sheet(found, self.around.today)
            self._paper.show()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Down from the filter goes into the list."""
        if event is not None and event.key() == Qt.Key.Key_Down and self.filter.hasFocus():
            self.list.setFocus(Qt.FocusReason.TabFocusReason)
            return
        super().keyPressEvent(event)
