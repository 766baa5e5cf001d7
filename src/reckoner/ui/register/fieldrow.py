"""One field of a sheet: it is read first, and edited where it stands."""

from __future__ import annotations

from typing import Any

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QVBoxLayout, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.translation import tr
from reckoner.shop.register.field import Field, FieldForm, is_missing
from reckoner.ui.layout import column, into_sight, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField
from reckoner.ui.widgets.text import label, tip

TITLE_WIDTH = 36 * GRID


class ShownValue(QPushButton):
    """The field as it is read: its title, its value, or in quiet words what it would improve. Pressed, it is edited."""

    def __init__(self, theme: Theme, title: str) -> None:
        super().__init__()
        self._theme, self._title = theme, title
        self._value, self._quiet = "", ""
        self.setProperty("class", "field")
        self.setAutoDefault(False)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFixedHeight(4 * GRID)
        theme.changed.connect(self.update)

    def show_value(self, value: str, quiet: str) -> None:
        """``value`` in ink; else ``quiet`` words in its place."""
        self._value, self._quiet = value, quiet
        self.setAccessibleName(f"{self._title}: {value or quiet or tr('nothing')}")
        self.setToolTip(
            tip(tr("{title}: {value}\nEnter or a click changes it", title=self._title, value=value or quiet))
        )
        self.update()

    @property
    def words(self) -> str:
        """What stands for the value."""
        return self._value or self._quiet

    def paintEvent(self, event: QPaintEvent | None) -> None:
        theme, painter = self._theme, QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.hasFocus() or self.underMouse():
            painter.setPen(QPen(theme.color("focus" if self.hasFocus() else "line"), 2))
            painter.setBrush(theme.color("accent_wash"))
            painter.drawRoundedRect(self.rect().adjusted(1, 1, -1, -1), 4, 4)
        middle = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.setFont(theme.font(Type.BODY))
        painter.setPen(theme.color("quiet"))
        elide, right = Qt.TextElideMode.ElideRight, self.width() - GRID
        title_width = min(TITLE_WIDTH, right // 2) - GRID
        shown = painter.fontMetrics().elidedText(self._title, elide, title_width - GRID)
        painter.drawText(self.rect().adjusted(GRID, 0, 0, 0), middle, shown)
        painter.setFont(theme.font(Type.STRONG if self._value else Type.BODY))
        painter.setPen(theme.color("ink" if self._value else "quiet"))
        room = self.rect().adjusted(title_width + GRID, 0, -GRID, 0)
        painter.drawText(room, middle, painter.fontMetrics().elidedText(self.words, elide, room.width()))


class FieldRow(QWidget):
    """Signals ``given(name, value)`` when a person has entered another value; the row shows it once it is told to.
    ``opened()`` when the person begins to edit it."""

    given = pyqtSignal(str, object)
    opened = pyqtSignal()

    def __init__(self, theme: Theme, field: Field) -> None:
        super().__init__()
        self._theme, self.field = theme, field
        self._own: OwnUnits | None = None
        self._value: Any = None
        self.shown = ShownValue(theme, field.title)
        self.shown.clicked.connect(self.edit)
        self.editor: QWidget | None = None
        self.entry: EntryField[Any] | None = None
        self.chips: Chips | None = None
        self._fault = label(theme, "", Type.CAPTION, "fault", wrap=True)
        self._fault.hide()
        self._room = QVBoxLayout(self)
        self._room.setContentsMargins(0, 0, 0, 0)
        self._room.addWidget(self.shown)

    def show_value(self, value: Any, own: OwnUnits, otherwise: str = "") -> None:
        """Show what is kept; ``otherwise`` stands there while nothing is. What is being typed stays."""
        self._value, self._own = value, own
        missing = is_missing(self.field, value)
        improves = (
            tr("not known; with it, {improves}", improves=self.field.improves)
            if self.field.improves
            else self.field.nothing
        )
        self.shown.show_value("" if missing else self.field.said(value, own), otherwise or improves)

    @property
    def editing(self) -> bool:
        """Whether it is open."""
        return self.editor is not None and self.editor.isVisibleTo(self)

    def edit(self) -> None:
        """Open it for editing, what is kept already there to be changed."""
        if self._own is None:
            return
        self._make_editor()
        own, missing = self._own, is_missing(self.field, self._value)
        said = "" if missing else self.field.said(self._value, own)
        if self.entry is not None:
            self.entry.read_with(lambda text: self.field.read(text, own))
            self.entry.line.setText(said)
            self.entry.line.selectAll()
        if self.chips is not None:
            self.chips.offer([(str(i), words) for i, (_, words) in enumerate(self.field.choices)], self._on())
        if self.editor is not None:
            self.shown.hide()
            self.editor.show()
        if self.entry is not None:
            self.entry.setFocus()
        elif self.chips is not None and self.chips.chips:
            on = self.chips.one or next(iter(self.chips.chips))
            self.chips.chips[on].setFocus()
        self.opened.emit()
        into_sight(self)

    def leave(self) -> None:
        """Close it, and show what is kept."""
        if self.editing and self.editor is not None:
            self.editor.hide()
            self.shown.show()
            self.shown.setFocus()

    def close_quietly(self) -> None:
        """The same when another field is opened: the focus goes there."""
        if self.editing and self.editor is not None:
            self.editor.hide()
            self.shown.show()

    def refuse(self, sentence: str) -> None:
        """Say why the value cannot be kept; what was typed stays."""
        if not self.editing:
            self.edit()
        if self.entry is not None:
            self.entry.refuse(sentence)
        elif self.chips is not None:
            self._fault.setText(sentence)
            self._fault.show()
        into_sight(self)

    def _on(self) -> list[str]:
        return [str(i) for i, (value, _) in enumerate(self.field.choices) if value == self._value]

    def _make_editor(self) -> None:
        if self.editor is not None:
            if self.chips is not None:
                self._fault.hide()
            return
        theme, made = self._theme, QWidget(self)
        leave = button(theme, tr("Leave it"), self.leave, "link")
        if self.field.form in (FieldForm.CHOICE, FieldForm.YES_NO):
            self.chips = Chips(theme, self.field.title)
            self.chips.chosen.connect(self._chosen)
            title = label(theme, self.field.title, Type.CAPTION, "quiet")
            choices = row(self.chips, leave, gap=1)
            choices.setStretch(0, 1)
            made.setLayout(column(title, choices, self._fault, gap=1))
        else:
            self.entry = EntryField(theme, self.field.title, lambda text: (text, " "), self.field.hint)
            self.entry.line.keeps_enter = True
            self.entry.given.connect(lambda value: self._give(value))
            self.entry.emptied.connect(self._empty)
            keep = button(theme, tr("Keep"), self._keep)
            buttons = column(row(keep, leave, gap=1), 1, gap=0)
            buttons.setContentsMargins(0, 20, 0, 0)
            self.entry.line.setMinimumWidth(24 * GRID)
            made.setLayout(row(self.entry, buttons, gap=1))
        made.layout().setContentsMargins(GRID, GRID, GRID, GRID)  # type: ignore[union-attr]
        made.setProperty("class", "editing")
        made.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        made.installEventFilter(self)
        for child in made.findChildren(QWidget):
            child.installEventFilter(self)
        self.editor = made
        self._room.addWidget(made)

    def _chosen(self) -> None:
        if self.chips is not None and self.chips.one:
            self._give(self.field.choices[int(self.chips.one)][0])

    def _keep(self) -> None:
        if self.entry is None:
            return
        try:
            self._give(self.entry.value())
        except InputRefused as refusal:
            self.entry.refuse(refusal.reason)
            self.entry.setFocus()

    def _empty(self) -> None:
        self._keep()

    def _give(self, value: Any) -> None:
        if value == self._value and type(value) is type(self._value):
            self.leave()
            return
        self.given.emit(self.field.name, value)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Escape leaves it as it was."""
        escapes = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress
        if escapes and event.key() == Qt.Key.Key_Escape:  # type: ignore[union-attr]
            self.leave()
            return True
        return super().eventFilter(watched, event)
