"""The Tools place: tools, models and people, each a list beside the sheet of the chosen one."""

from __future__ import annotations

from collections.abc import Callable
from enum import Enum, auto
from functools import partial

from PyQt6.QtCore import QModelIndex, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.translation import tr, tr_count
from reckoner.shop.changes import Change, ChangeKind
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.lists import BY_NUMBER, Sorting, ToolsFound, find
from reckoner.shop.register.sheet import ToolSheet, sheet
from reckoner.shop.register.trends import trends
from reckoner.store.terms import RegisterKind
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.register.adders import Adder
from reckoner.ui.register.shelf import Shelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.tools.columns import ColumnsTable
from reckoner.ui.tools.filters import KeptFilters, SaveList
from reckoner.ui.tools.rightside import RightSide
from reckoner.ui.tools.sheet import ToolSheetView
from reckoner.ui.tools.shelves import ABOVE, OTHER_SHELVES, SHELVES, ShopPage
from reckoner.ui.tools.together import Together
from reckoner.ui.tools.tools_list import Feeder, ToolsList
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.tag import TAG_SIZE
from reckoner.ui.widgets.text import LineEdit, label
from reckoner.ui.work import call

CARES = (ChangeKind.TOOLS, ChangeKind.STANDINGS, ChangeKind.MODELS)
"""The changes that touch what is listed."""

SHEET_CARES = (ChangeKind.MODELS, ChangeKind.ATTACHMENTS)
"""Those that touch every sheet."""


class ToolsView(Enum):
    """The ways in which the tools are listed."""

    TAGS = auto()
    COLUMNS = auto()


LEFT = TAG_SIZE.width() + 4 * GRID
WHOLE = 16777215  # Qt's own word for no limit


class ToolsPlace(Place):
    """The register; a target's tool opens its sheet."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._wanted: int | None = None
        self._shown = ""
        self._sheet_of = 0
        self._asking, self._reading, self._trending = (LatestQuery(around.work) for _ in range(3))
        self._count = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.filter = LineEdit()
        self.filter.setPlaceholderText(tr("Filter: click 200, held, Tower crew"))
        self.filter.setAccessibleName(tr("Filter the tools"))
        self.filter.setFont(self.theme.font(Type.BODY))
        self.filter.setClearButtonEnabled(True)
        self.filter.textChanged.connect(lambda _text: self._find())
        self.list = ToolsList(self.theme, around.today)
        self._tags_fed = Feeder(around, self.list.tools, lambda: self._chosen(self.list.currentIndex(), QModelIndex()))
        chooser = self.list.selectionModel()
        if chooser is not None:
            chooser.currentChanged.connect(self._chosen)
        self.table = ColumnsTable(self.theme, around.today)
        self._table_fed = Feeder(around, self.table.tools, lambda: None)
        self.table.sorted.connect(lambda _sorting: self._find())
        self.table.opened.connect(self._open_tool)
        self.together = Together(around, self.table, lambda: self._shown)
        self.kept = KeptFilters(around)
        self.kept.chosen.connect(self.filter.setText)
        self.none = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.sheet = ToolSheetView(around)
        self.right = RightSide(around, surface(column(self.sheet)))
        self.right.added.connect(self._added)
        self.saving = SaveList(around, lambda: (self.filter.text(), self._sorting))
        self.add_button = button(self.theme, tr("Add tools…"), lambda: self._begin(self.right.begin_adding))
        self.bring_button = button(self.theme, tr("Bring in…"), lambda: self._begin(self.right.begin_bringing))
        self.bring_button.setToolTip(tr("Tools from a spreadsheet: CSV, XLSX, ODS or XLS"))
        self.way = ToolsView.TAGS
        self.turn = button(self.theme, "", self._turn, "link")
        self._set_out()

    def _set_out(self) -> None:
        self._lists = QStackedWidget()
        self._lists.addWidget(self.list)
        in_columns = QWidget()
        columns = column(self.table, self.together, gap=2)
        columns.setStretch(0, 1)
        in_columns.setLayout(columns)
        self._lists.addWidget(in_columns)
        self._left = QWidget()
        layout = column(
            column(self._head(RegisterKind.TOOL), row(self._count, self.turn), gap=1),
            column(self.filter, self.kept, row(self.kept.keep, 1, self.saving), gap=1),
            self.none,
            self._lists,
            flow(self.add_button, self.bring_button),
            gap=2,
        )
        layout.setStretch(3, 1)
        self._left.setLayout(layout)
        self.sheet.bench.connect(lambda tool_id: self.around.go(Target(PlaceId.BENCH, tool=tool_id)))
        self.sheet.opened.connect(lambda run_id: self.around.go(Target(PlaceId.BENCH, run=run_id)))
        self.sheet.like.connect(self.right.begin_like)
        self.sheet.scale.connect(self.right.begin_scale)
        self.sheet.model.connect(lambda model_id: self._open(RegisterKind.MODEL, model_id))
        tools = QWidget()
        tools.setLayout(row(self._left, self.right, gap=2))
        self._list_as(ToolsView.TAGS)
        self._stack = QStackedWidget()
        self._stack.addWidget(tools)
        self._tools = tools
        self._others: dict[RegisterKind, Shelf] = {}
        self._shop: ShopPage | None = None
        self.setLayout(column(self._stack, margin=2))

    def arrive(self, target: Target) -> None:
        """Open the sheet of the target's tool or row; the filter is cleared when it would hide it."""
        if target.register not in (None, RegisterKind.TOOL):
            self._open(target.register, target.row)
            return
        if target.bring_in or target.number or target.tool is not None:
            self._list_as(ToolsView.TAGS)
        self._open(RegisterKind.TOOL)
        if target.bring_in:
            self.right.show_bringing()
        if target.number:
            self.right.begin_adding(target)
        if target.tool is not None:
            self._wanted = target.tool
            self.filter.blockSignals(True)
            self.filter.clear()
            self.filter.blockSignals(False)
        self.refresh()
        if target.tool is not None:
            self.list.setFocus()

    def _open(self, kind: RegisterKind, row_id: int | None = None) -> None:
        """Bring one of the shelves to the front."""
        if kind is RegisterKind.TOOL:
            self._stack.setCurrentWidget(self._tools)
            self._find(self.new_screen)
            return
        if kind is RegisterKind.SHOP:
            if self._shop is None:
                self._shop = ShopPage(self.around, self._head(kind))
                self._stack.addWidget(self._shop)
            self._stack.setCurrentWidget(self._shop)
            self._shop.refresh()
            self.new_screen()
            return
        if kind not in self._others:
            spec, adder = OTHER_SHELVES[kind]
            above = ABOVE[kind](self.around) if kind in ABOVE else None
            self._others[kind] = Shelf(self.around, spec, self._head(kind), partial(adder, self.around), above)
            self._stack.addWidget(self._others[kind])
        self._stack.setCurrentWidget(self._others[kind])
        self._others[kind].arrive(row_id)
        self.new_screen()

    def _head(self, kind: RegisterKind) -> Chips:
        """What stands above a shelf's list: its own name, and the others to go to."""
        head = Chips(self.theme, tr("What of the register"))
        head.offer([(one.value, words) for one, words in SHELVES.items()], [kind.value])

        def chosen() -> None:
            wanted = RegisterKind(head.one)
            head.choose(kind.value)
            self._open(wanted)

        head.chosen.connect(chosen)
        return head

    @property
    def other(self) -> Shelf | None:
        """The shelf in front, when it is not the tools'."""
        found = self._stack.currentWidget()
        return found if isinstance(found, Shelf) else None

    def _added(self, tool_id: int) -> None:
        """Show what was added, whatever the filter says."""
        self._wanted = tool_id or None
        self.filter.clear()
        self._find()

    def refresh(self) -> None:
        if self.other is not None:
            self.other.refresh()
            self.other.sheet.refresh()
            return
        self._sheet_of = 0  # what it shows may be another one by now
        self.kept.refresh()
        self._find(self.new_screen)

    def changes(self, made: tuple[Change, ...]) -> None:
        """Ask for the list anew, and for the open sheet when its tool changed; nothing while another place is in front."""
        if not self.isVisible():
            return
        if self.other is not None:
            self.other.changes(made)
            return
        if self._shop is not None and self._stack.currentWidget() is self._shop:
            self._shop.refresh()
            return
        if any(change.kind in CARES for change in made):
            self._find()
        if any(change.kind is ChangeKind.FILTERS for change in made):
            self.kept.refresh()
        ids = {i for change in made if change.kind in (ChangeKind.TOOLS, ChangeKind.STANDINGS) for i in change.ids}
        current = self._current()
        if (
            not self.in_columns
            and current is not None
            and (current.tool.id in ids or any(c.kind in SHEET_CARES for c in made))
        ):
            self._ask_sheet(current.tool.id)

    @property
    def tool_in_front(self) -> int | None:
        """The tool whose sheet is open."""
        current = self._current()
        return current.tool.id if current is not None and self.other is None else None

    def primary(self) -> None:
        if self.other is not None:
            adder = self.other.adder
            if self.other.is_adding and isinstance(adder, Adder):
                adder.add()
        elif self.in_columns:
            self.table.open_current()
        elif not self.right.primary():
            self.sheet.put_on_bench()

    def shut(self) -> None:
        self.sheet.files.shut()

    @property
    def in_columns(self) -> bool:
        """Whether the tools are listed as a table."""
        return self.way is ToolsView.COLUMNS

    @property
    def _sorting(self) -> Sorting:
        return self.table.sorting if self.in_columns else BY_NUMBER

    def _list_as(self, way: ToolsView) -> None:
        """List the tools as tags beside a sheet, or as a table over the whole width."""
        self.way = way
        self.turn.setText(tr("As tags") if self.in_columns else tr("As a table"))
        self._lists.setCurrentIndex(int(self.in_columns))
        self.right.setVisible(not self.in_columns)
        self._left.setMinimumWidth(LEFT)
        self._left.setMaximumWidth(WHOLE if self.in_columns else LEFT)

    def _turn(self) -> None:
        self._list_as(ToolsView.TAGS if self.in_columns else ToolsView.COLUMNS)
        self._find(self.new_screen)

    def _open_tool(self, tool_id: int) -> None:
        """Its sheet, from the table: beside the tags, and what was filtered stays."""
        self._list_as(ToolsView.TAGS)
        self._wanted = tool_id
        self.expect()
        self._find(self.new_screen)
        self.list.setFocus()

    def _begin(self, begin: Callable[[], None]) -> None:
        """Begin something at the right, beside the tags."""
        self._list_as(ToolsView.TAGS)
        begin()

    def _current(self) -> ToolCard | None:
        return self.table.current if self.in_columns else self.list.tools.card_at(self.list.currentIndex())

    def _find(self, ended: Callable[[], None] | None = None) -> None:
        """Ask what the filter finds; the tool that is chosen stays chosen where it is found again."""
        text, today, current, sorting = self.filter.text(), self.around.today, self._current(), self._sorting
        self.kept.show_text(text)
        wanted = self._wanted if self._wanted is not None else current.tool.id if current is not None else None
        self._asking.look(
            call(find, text, today, wanted, sorting),
            lambda found: self._show_found(text, sorting, found),
            ended=ended,
        )

    def _show_found(self, text: str, sorting: Sorting, found: ToolsFound) -> None:
        if sorting != self._sorting:  # it was turned meanwhile, and asked anew
            return
        self._shown = text
        self._wanted = None
        tools = tr_count("1 tool", "{n} tools", found.tools)
        self._count.setText(tools + (tr(", {held} held", held=found.held) if found.held else ""))
        (self._table_fed if self.in_columns else self._tags_fed).show(text, sorting, found)
        self.none.setVisible(not found.count)
        self.none.setText(
            tr("No tool matches. Clear the filter to see all.")
            if found.tools
            else tr("No tools yet. Add the first by its picture below.")
        )
        if not found.count:
            self.right.show_paper(written_on=False)
            return
        if not self.in_columns:
            self.list.setCurrentIndex(self.list.tools.index(found.row or 0, 0))
            self.list.scrollTo(self.list.currentIndex())

    def _chosen(self, current: QModelIndex, _previous: QModelIndex) -> None:
        card = self.list.tools.card_at(current)
        if not self.in_columns and card is not None and card.tool.id != self._sheet_of:
            self._ask_sheet(card.tool.id)

    def _ask_sheet(self, tool_id: int) -> None:
        self._sheet_of = tool_id
        self._reading.look(call(sheet, tool_id), self._show_sheet)

    def _show_sheet(self, found: ToolSheet) -> None:
        if self._sheet_of == found.card.tool.id and self.list.tools.rowCount():
            self.sheet.show_sheet(found, self.around.today)
            tool_id = found.card.tool.id
            self._trending.look(call(trends, found), lambda made: self.sheet.show_trends(tool_id, made))
            self.right.show_paper(written_on=True)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Down from the filter goes into the list."""
        if event is not None and event.key() == Qt.Key.Key_Down and self.filter.hasFocus():
            (self.table.table if self.in_columns else self.list).setFocus(Qt.FocusReason.TabFocusReason)
            return
        super().keyPressEvent(event)
