"""An entry field that shows below what it understood, and says what it did not, while one types."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from functools import partial
from typing import Any, Generic, TypeVar

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities import printing
from reckoner.core.quantities.days import day_words, read_day
from reckoner.core.quantities.entry import read, read_plain, read_temperature, read_torque
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.translation import tr
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import LineEdit, label, set_tone, tip

T = TypeVar("T")
TextReader = Callable[[str], tuple[T, str]]
"""Turns text into a value and the words for it, or raises InputRefused."""


class EntryField(QWidget, Generic[T]):
    """A name, a line, and a hint, for a value as ``understand`` reads it.

    Signals ``given(object)``: Enter with a value that was understood; ``emptied()``: Enter with nothing there.
    ``awaits_number``: its place waits for a number here, so that a digit typed outside of any field begins it.
    """

    given = pyqtSignal(object)
    emptied = pyqtSignal()
    awaits_number = False
    key = ""
    """What its form calls it."""

    def __init__(self, theme: Theme, name: str, understand: TextReader[T], placeholder: str = "") -> None:
        super().__init__()
        self._understand = understand
        self._name = label(theme, name, Type.CAPTION, "quiet", wrap=True)
        self.line = LineEdit()
        self.line.setFont(theme.font(Type.FIGURE))
        self.line.setPlaceholderText(placeholder)
        self.line.setAccessibleName(name)
        self.hint = label(theme, " ", Type.CAPTION, "quiet", wrap=True)
        self._name.setBuddy(self.line)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(GRID // 2)
        self._beside = QHBoxLayout()
        self._beside.setSpacing(GRID)
        self._beside.addWidget(self.line, 1)
        column.addWidget(self._name)
        column.addLayout(self._beside)
        column.addWidget(self.hint)
        self.line.textChanged.connect(self._read_text)
        self.line.returnPressed.connect(self._enter)
        self.setFocusProxy(self.line)

    def cap(self, width: int) -> None:
        """Make the line no wider than ``width`` px; what is said below it may be."""
        self.line.setMaximumWidth(width)
        self._beside.addStretch(1)

    @property
    def text(self) -> str:
        return self.line.text()

    def value(self) -> T:
        """What the text means. Raises InputRefused, in the name that its form gives it."""
        try:
            return self._understand(self.line.text())[0]
        except InputRefused as refusal:
            raise InputRefused(self.key or refusal.field, refusal.value, refusal.reason) from None

    def value_or_none(self) -> T | None:
        """The same; None where nothing stands there."""
        return self.value() if self.text.strip() else None

    @property
    def reads(self) -> bool:
        """Whether what stands there is understood."""
        try:
            self.value()
        except InputRefused:
            return False
        return True

    def offer_pad(self, theme: Theme) -> None:
        """Large keys on the screen, beside the line: for who has no keyboard at hand, or gloves on."""
        from reckoner.ui.widgets.numberpad import pad_button  # only where it is offered

        self._beside.insertWidget(1, pad_button(theme, self.line))

    def offer_steps(
        self: EntryField[float] | EntryField[int],
        theme: Theme,
        start: float,
        step: float,
        show: Callable[[float], str] | None = None,
    ) -> None:
        """Put − and + beside the line, for a hand on the mouse: the first press gives ``start``, the next go on by
        ``step``; held, they repeat. ``show`` writes a value as it is to be read (None: as a bare number)."""
        decimals = printing.decimals_for(step)

        def move(by: float) -> None:
            try:
                value = self.value() + by if self.text.strip() else start
            except InputRefused:
                value = start
            self.line.setText(printing.fixed(value, decimals) if show is None else show(value))

        for words, by in (("−", -step), ("+", step)):
            stepper = button(theme, words, partial(move, by))
            stepper.setAutoRepeat(True)
            stepper.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # Tab goes from field to field; the value is typed there
            stepper.setFixedWidth(6 * GRID)
            stepper.setAccessibleName(
                tr(
                    "{which} {accessiblename}",
                    which=tr("Less") if by < 0 else tr("More"),
                    accessiblename=self.line.accessibleName(),
                )
            )
            self._beside.addWidget(stepper)

    def read_with(self, understand: TextReader[T]) -> None:
        """Understand what is typed from now on by ``understand``."""
        self._understand = understand
        self._read_text(self.line.text())

    def relabel(self, name: str) -> None:
        """Call it otherwise from now on."""
        self._name.setText(name)
        self.line.setAccessibleName(name)

    def clear(self) -> None:
        self.line.clear()

    def refuse(self, sentence: str) -> None:
        """Show why the value cannot be taken; the text stays."""
        self.hint.setText(sentence)
        self.hint.setToolTip(tip(sentence))
        set_tone(self.hint, "fault")
        set_tone(self.line, "refused")

    def refresh(self) -> None:
        """Say of what stands there what is understood, whatever was refused before."""
        self._read_text(self.line.text())

    def _read_text(self, text: str) -> None:
        if not text.strip():
            self._say(" ")
            return
        try:
            self._say(self._understand(text)[1])
        except InputRefused as refusal:
            self.refuse(refusal.reason)

    def _say(self, words: str) -> None:
        self.hint.setText(words)
        self.hint.setToolTip("")
        set_tone(self.hint, "quiet")
        set_tone(self.line, "")

    def _enter(self) -> None:
        if not self.line.text().strip():
            self.emptied.emit()
            return
        try:
            value, _ = self._understand(self.line.text())
        except InputRefused as refusal:
            self.refuse(refusal.reason)
            return
        self.given.emit(value)


def understood(*fields: EntryField[Any]) -> bool:
    """Whether all fields say something that is understood; the first that does not says so and takes the focus."""
    for field in fields:
        try:
            field.value()
        except InputRefused as refusal:
            field.refuse(refusal.reason)
            field.setFocus()
            return False
    return True


def understood_if_given(*fields: EntryField[Any]) -> bool:
    """The same of fields that may stay empty."""
    return understood(*(field for field in fields if field.text.strip()))


def numbers_of(*fields: EntryField[float]) -> tuple[float, ...] | None:
    """What the fields say; None when one of them is not ``understood``."""
    return tuple(field.value() for field in fields) if understood(*fields) else None


def torque_reader(unit: Unit) -> TextReader[float]:
    """Reads a torque; a bare number is in ``unit``. Values in N·m."""

    return partial(read_torque, unit=unit)


def quantity_reader(kind: Kind, unit: Unit | None) -> TextReader[float]:
    """Reads a quantity of ``kind``; a bare number is in ``unit``, or refused where there is none. Values in SI."""

    def understand(text: str) -> tuple[float, str]:
        found = read(text, kind, default=unit, field=str(kind))
        return found.si, tr("understood: {si}", si=printing.quantity(found.si, found.unit))

    return understand


def plain_reader(low: float, high: float, unit: str) -> TextReader[float]:
    """Reads a number that has one unit only."""

    def understand(text: str) -> tuple[float, str]:
        value = read_plain(text, low, high, unit)
        return value, f"{printing.number(value)}{printing.THIN}{unit}"

    return understand


def words_reader(text: str) -> tuple[str, str]:
    """Any words; for reasons and notes."""
    return text.strip(), " "


def passphrase_field(theme: Theme, name: str) -> EntryField[str]:
    """A line whose text is shown to nobody."""
    field = EntryField(theme, name, lambda text: (text, " "))
    field.line.setEchoMode(QLineEdit.EchoMode.Password)
    field.line.setMinimumWidth(32 * GRID)
    field.cap(40 * GRID)
    return field


def day_reader(text: str) -> tuple[date, str]:
    """Reads a day."""
    day = read_day(text)
    return day, tr("understood: {day}", day=day_words(day))


def temperature_reader(own: OwnUnits) -> TextReader[float]:
    """Of a room, a bare number being in one's ``own`` degrees."""
    return partial(read_temperature, fahrenheit=own.fahrenheit)
