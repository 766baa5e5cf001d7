"""Bringing a spreadsheet of tools in: what each column means, what each row says, and only then into the register."""

from __future__ import annotations

import threading
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QAbstractTableModel, QModelIndex, QObject, QPoint, Qt, pyqtSignal
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QMenu, QTableView, QWidget

from reckoner.core.errors import Refused
from reckoner.core.quantities.days import DayOrder
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.translation import tr, tr_count
from reckoner.formats.files import FileNotWritten, write_whole
from reckoner.formats.tables import Table, read_table, written_csv
from reckoner.shop.register.bringing import bring_in
from reckoner.shop.register.columns import ColumnMeaning, as_said, key_of_columns, meanings, remembered, unused
from reckoner.shop.register.editing import Command
from reckoner.shop.register.spreadsheets import ReadRow, asks_order, understood
from reckoner.store.station import StationNotWritable
from reckoner.ui.files import FileKind, ask_where, ask_which
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label, tip
from reckoner.ui.work import call

A_FEW = 20
"""Tools after which the count is told."""

UNITS = ("N.m", "lbf.ft", "lbf.in", "cN.m", "kgf.m")
"""Units that bare torques can be meant in."""


class BroughtRowsModel(QAbstractTableModel):
    """Column 0 is what was understood, or what is wrong; the others are the file's own."""

    def __init__(self, theme: Theme, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.table: Table | None = None
        self.meanings: tuple[ColumnMeaning, ...] = ()
        self.rows: tuple[ReadRow, ...] = ()

    def show(self, table: Table, columns: tuple[ColumnMeaning, ...], rows: tuple[ReadRow, ...]) -> None:
        """Another file, or other meanings."""
        self.beginResetModel()
        self.table, self.meanings, self.rows = table, columns, rows
        self.endResetModel()

    def rowCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex = QModelIndex()) -> int:  # noqa: B008 - Qt's own signature
        return 0 if parent.isValid() or self.table is None else 1 + len(self.table.columns)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if self.table is None:
            return None
        if orientation is Qt.Orientation.Vertical:
            wanted = role == Qt.ItemDataRole.DisplayRole and section < len(self.rows)
            return str(self.rows[section].line) if wanted else None
        if role == Qt.ItemDataRole.ToolTipRole and section:
            return tip(tr("Click to say what this column means"))
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        if section == 0:
            return tr("Understood\nor what is wrong")
        meaning = self.meanings[section - 1] if section <= len(self.meanings) else ColumnMeaning.NOTHING
        return tr(
            "{columns}\n= {meaning} ▾", columns=self.table.columns[section - 1] or tr("(no name)"), meaning=meaning
        )

    def data(self, index: QModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or not 0 <= index.row() < len(self.rows):
            return None
        read = self.rows[index.row()]
        if index.column() == 0:
            words = read.tool.words if read.tool is not None else f"✗ {'; '.join(read.faults)}"
        else:
            words = read.cells[index.column() - 1] if index.column() <= len(read.cells) else ""
        if role == Qt.ItemDataRole.DisplayRole:
            return words
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(words)
        if role == Qt.ItemDataRole.ForegroundRole:
            unused = index.column() and self.meanings[index.column() - 1 : index.column()] == (ColumnMeaning.NOTHING,)
            return self._theme.color(
                "outside" if index.column() == 0 and read.tool is None else "quiet" if unused else "ink"
            )
        return None


MOST_LISTS = 50
"""Kinds of lists whose columns are remembered."""


class Bringing(QWidget):
    """Signals ``brought()`` once the tools are in the register, ``left()`` when the person goes back without."""

    brought = pyqtSignal()
    left = pyqtSignal()
    _counted = pyqtSignal(int)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._table: Table | None = None
        self._unit: Unit = N_M
        self.title = label(theme, tr("From a spreadsheet"), Type.HEADLINE)
        self.told = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.left_out = label(theme, "", Type.BODY, wrap=True)
        self.left_out.hide()
        self.order = Chips(theme, tr("Days such as 3/4/2026 are"), beside=True)
        self.order.offer([(one.value, one.value) for one in DayOrder], [])
        self.order.chosen.connect(lambda: self._understand(self.model.meanings))
        self._orders = QWidget()
        self._orders.setLayout(
            row(label(theme, tr("Days such as 3/4/2026 are"), Type.BODY, "quiet"), self.order, gap=1)
        )
        self._orders.hide()
        self.units = Chips(theme, tr("Torques without a unit are in"), beside=True)
        self.units.offer([(name, unit_named(name, Kind.TORQUE).symbol) for name in UNITS], [N_M.name])
        self.units.chosen.connect(self._united)
        self.model = BroughtRowsModel(theme, self)
        self.view = QTableView()
        self.view.setModel(self.model)
        self.view.setAccessibleName(tr("The rows of the spreadsheet, and what was understood of them"))
        self.view.setFont(theme.font(Type.CAPTION))
        self.view.setShowGrid(False)
        self.view.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
        self.view.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        header = self.view.horizontalHeader()
        if header is not None:
            header.setFont(theme.font(Type.CAPTION))
            header.setDefaultAlignment(Qt.AlignmentFlag.AlignLeft)
            header.setSectionsClickable(True)
            header.sectionClicked.connect(self._ask_meaning)
            header.setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        side = self.view.verticalHeader()
        if side is not None:
            side.setFont(theme.font(Type.CAPTION))
            side.setDefaultSectionSize(3 * GRID + 4)
        self.other = button(theme, tr("Another file…"), self.ask)
        self.save = button(theme, tr("Save the rows to be mended…"), self._ask_where)
        self.button = PrimaryButton(theme, tr("Bring them in"))
        self.button.setMinimumWidth(36 * GRID)
        self.button.clicked.connect(self.bring)
        self._set_out(theme)

    def _set_out(self, theme: Theme) -> None:
        head = row(self.title, 1, self.other, button(theme, tr("Leave it"), self.left.emit, "link"), gap=2)
        self._bare = QWidget()
        self._bare.setLayout(
            row(label(theme, tr("Torques without a unit are in"), Type.BODY, "quiet"), self.units, gap=1)
        )
        foot = row(column(self.fault, self.told, gap=0), self.save, self.button, gap=2)
        foot.setStretch(0, 1)
        layout = column(
            head, self._bare, self._orders, surface(column(self.view, margin=1)), self.left_out, foot, gap=2
        )
        layout.setStretch(3, 1)
        self.setLayout(layout)
        self._stop = threading.Event()
        self.stop_button = button(theme, tr("Stop"), self._stop.set)
        self.stop_button.hide()
        self._counted.connect(self._show_count)  # emitted on the worker, so queued to the interface
        foot.insertWidget(1, self.stop_button)
        self._update_state()

    def ask(self) -> None:
        """Ask for the file."""
        kinds = tr("Spreadsheets (*.csv *.tsv *.txt *.xlsx *.xlsm *.ods *.xls)")
        if (path := ask_which(self._around, self, FileKind.REGISTER, tr("A spreadsheet of tools"), kinds)) is not None:
            self.read(path)

    def read(self, path: Path) -> None:
        """Read a file; nothing is written."""
        self.fault.setText("")
        self.told.setText(tr("Reading it…"))
        self._around.work.read_file(read_table, path, done=self._took, refused=self._refused)

    def choose(self, place: int, meaning: ColumnMeaning) -> None:
        """Say what a column means; what meant that before is not used any more."""
        if self._table is None:
            return
        columns = [ColumnMeaning.NOTHING if m is meaning else m for m in self.model.meanings]
        columns[place] = meaning
        self._remember(tuple(columns))
        self._understand(tuple(columns))

    def _remember(self, columns: tuple[ColumnMeaning, ...]) -> None:
        """The next list with these columns is understood as this one was."""
        if self._table is None:
            return
        kept = {**self._around.station.settings.columns, key_of_columns(self._table): as_said(columns)}
        try:
            self._around.station.keep(columns=dict(list(kept.items())[-MOST_LISTS:]))
        except StationNotWritable as refusal:
            self._around.say(str(refusal))

    def bring(self) -> None:
        """Put the good rows into the register."""
        tools = [r.tool for r in self.model.rows if r.tool is not None]
        if not tools or self._table is None:
            return
        if self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return
        act, source = self._around.act(), self._table.source
        self.button.setEnabled(False)
        self._stop.clear()
        self.stop_button.show()

        def go_on(count: int) -> bool:
            if count % A_FEW == 0:
                self._counted.emit(count)
            return not self._stop.is_set()

        def done(command: Command) -> None:
            self._around.undo_stack.did(command)
            self.brought.emit()

        self._around.work.ask(
            call(bring_in, tools, source, act, go_on),
            done,
            self._refused,
            ended=self.stop_button.hide,
        )

    def _show_count(self, count: int) -> None:
        of = sum(r.tool is not None for r in self.model.rows)
        if self.stop_button.isVisibleTo(self):
            self.told.setText(
                tr("Bringing in: {count} of {of}. Nothing is in the register until all are.", count=count, of=of)
            )

    def save_faulty(self, path: Path) -> None:
        """Write the rows with faults into a file, each with what is wrong, to be mended and brought in."""
        if self._table is None:
            return
        wrong = [(*r.cells, "; ".join(r.faults)) for r in self.model.rows if r.tool is None]
        try:
            write_whole(path, written_csv((*self._table.columns, tr("what is wrong")), wrong).encode())
        except FileNotWritten as refusal:
            self.fault.setText(str(refusal))
            return
        self._around.saved(
            tr("{count} rows are in {path}. Mend them there, and bring that file in.", count=len(wrong), path=path),
            path,
        )

    def _took(self, table: Table) -> None:
        self._table = table
        self.title.setText(tr("From {source}", source=table.source))
        said = self._around.station.settings.columns.get(key_of_columns(table), "")
        self._understand(remembered(table, said) or meanings(table))

    def _understand(self, columns: tuple[ColumnMeaning, ...]) -> None:
        table, unit, order = self._table, self._unit, DayOrder(self.order.one) if self.order.one else None
        if table is None:
            return
        self._around.work.browse(
            call(understood, table, columns, unit=unit, order=order),
            lambda rows: self._show_table(table, columns, rows),
            self._refused,
        )

    def _show_table(self, table: Table, columns: tuple[ColumnMeaning, ...], rows: tuple[ReadRow, ...]) -> None:
        self.model.show(table, columns, rows)
        self.view.setColumnWidth(0, 60 * GRID)
        for i in range(1, self.model.columnCount()):
            self.view.setColumnWidth(i, 16 * GRID)
        self._update_state()

    def _update_state(self) -> None:
        rows = self.model.rows
        good = sum(r.tool is not None for r in rows)
        bad = len(rows) - good
        self.button.setEnabled(good > 0)
        self.button.say(tr_count("Bring in {n} tool", "Bring in {n} tools", good) if good else tr("Bring them in"))
        self.save.setVisible(bad > 0)
        if self._table is None:
            self.told.setText(
                tr(
                    "CSV with any divider, XLSX, ODS or XLS. Nothing is written until you have seen what was "
                    "understood."
                )
            )
        else:
            wrong = (
                tr_count("; {n} row has a fault, which stays out", "; {n} rows have faults, which stay out", bad)
                if bad
                else ""
            )
            words = tr("Click a column's name to say what it means. One Ctrl+Z takes all of it back.")
            self.told.setText(
                tr(
                    "{good} of {count} rows can be brought in{wrong}. {words}",
                    good=good,
                    count=len(rows),
                    wrong=wrong,
                    words=words,
                )
            )
            left = unused(self._table, self.model.meanings)
            named = "; ".join(f"{one.name} ({', '.join(one.values)})" for one in left)
            self.left_out.setText(tr("Not used: {named}.", named=named) if left else "")
            self.left_out.setVisible(bool(left))
            self._orders.setVisible(asks_order(self._table, self.model.meanings))

    def _united(self) -> None:
        self._unit = unit_named(self.units.one, Kind.TORQUE)
        self._understand(self.model.meanings)

    def _ask_meaning(self, section: int) -> None:
        header = self.view.horizontalHeader()
        if section == 0 or header is None:
            return
        menu = QMenu(self)
        for meaning in ColumnMeaning:
            action = menu.addAction(str(meaning))
            if action is not None:
                action.triggered.connect(lambda _checked=False, m=meaning: self.choose(section - 1, m))
        beside = QPoint(header.sectionViewportPosition(section), header.height())
        menu.popup(header.mapToGlobal(beside))

    def _ask_where(self) -> None:
        title, name = tr("Save the rows to be mended"), tr("tools to be mended.csv")
        if (path := ask_where(self._around, self, FileKind.REGISTER, title, name, "CSV (*.csv)")) is not None:
            self.save_faulty(path)

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))
        self._update_state()
