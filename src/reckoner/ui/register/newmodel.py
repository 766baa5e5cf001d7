"""A model that is not in the register yet: by its picture, its range and its drive. The rest can wait."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.entry import read_range
from reckoner.core.errors import InputRefused
from reckoner.core.printing import number, span
from reckoner.core.units import N_M, Kind, Unit, unit_named
from reckoner.shop.register.adding import GivenModel
from reckoner.shop.register.fields import DRIVES
from reckoner.shop.register.shapes import SCREWDRIVERS, SHAPES, USUAL_UNITS, Shape, usual_ranges
from reckoner.ui.layout import column, row
from reckoner.ui.register.pictures import Picture
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.text import label


class NewModel(QWidget):
    """Everything can be chosen with the mouse, or typed. Signal ``changed()``."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme, *, with_names: bool = True) -> None:
        super().__init__()
        self._theme = theme
        self._unit: Unit = N_M
        self._group = QButtonGroup(self)
        self.pictures: dict[Shape, Picture] = {}
        pictures = QWidget()
        flow = Flow(pictures)
        for shape in Shape:
            picture = Picture(theme, shape)
            self.pictures[shape] = picture
            self._group.addButton(picture)
            flow.addWidget(picture)
        self._group.buttonToggled.connect(lambda _button, on: self._shaped() if on else None)
        self.units = Chips(theme, "Unit of its scale", beside=True)
        self.units.chosen.connect(self._united)
        self.ranges = Chips(theme, "Its range")
        self.ranges.chosen.connect(self._ranged)
        self.range = EntryField(theme, "or another range, from its smallest to its full scale", self._read_range)
        self.range.line.textChanged.connect(lambda _text: self._typed())
        self.range.cap(32 * GRID)
        self.drives = Chips(theme, "Its drive", beside=True)
        self.drives.offer([(drive, drive) for drive in DRIVES], [])
        self.drives.chosen.connect(self.changed)
        self.maker = EntryField(theme, "Maker, where you know it", words_reader)
        self.name = EntryField(theme, "Model, where you know it", words_reader)
        self._names = QWidget()
        self._names.setLayout(row(self.maker, self.name, gap=2))
        self._sizes = QWidget()
        self._sizes.setLayout(
            column(
                row(label(theme, "Its range", Type.LEAD), self.units, gap=2),
                self.ranges,
                row(self.range, column(label(theme, "Its drive", Type.CAPTION, "quiet"), self.drives, 1, gap=1), gap=2),
                self._names,
                gap=1,
            )
        )
        self._names.setVisible(with_names)
        self._sizes.hide()
        self._pick = label(theme, "What does it look like?", Type.LEAD)
        self.others = button(theme, "It looks otherwise…", self._show_all, "link")
        self.others.hide()
        self.setLayout(column(row(self._pick, self.others, 1, gap=2), pictures, self._sizes, gap=1))

    def _show_all(self) -> None:
        """Every picture again; what was given stays."""
        for picture in self.pictures.values():
            picture.show()
        self.others.hide()
        self._sizes.hide()

    def _show_one(self) -> None:
        """The chosen one only: what is to be given next has the room."""
        for shape, picture in self.pictures.items():
            picture.setVisible(shape is self.shape)
        self.others.show()

    @property
    def shape(self) -> Shape | None:
        """The chosen kind."""
        found = self._group.checkedButton()
        return found.shape if isinstance(found, Picture) else None

    def value(self) -> GivenModel:
        """The model as it is described. Raises InputRefused with what is missing."""
        shape = self.shape
        if shape is None:
            raise InputRefused("kind", None, "Choose the picture that looks like it.")
        if not self.range.text.strip():
            raise InputRefused("range", "", "Choose its range, or type it.")
        low, high = self._ends(self.range.text)
        words = (self.maker.text.strip(), self.name.text.strip()) if self._names.isVisibleTo(self) else ("", "")
        return GivenModel(
            shape, None if SHAPES[shape].fixed or low == high else low, high, self._unit, self.drives.one, *words
        )

    def said(self) -> str:
        """What has been described, in words; what is missing else."""
        try:
            return self.value().called
        except InputRefused as refusal:
            return refusal.reason

    @property
    def complete(self) -> bool:
        """Whether it can be added."""
        try:
            self.value()
        except InputRefused:
            return False
        return True

    def _shaped(self) -> None:
        shape = self.shape
        if shape is None:
            return
        units = USUAL_UNITS[shape in SCREWDRIVERS]
        if self._unit.name not in units:
            self._unit = N_M
        self.units.offer([(name, unit_named(name, Kind.TORQUE).symbol) for name in units], [self._unit.name])
        self._offer_ranges()
        self._sizes.show()
        self._show_one()
        self.changed.emit()

    def _united(self) -> None:
        self._unit = unit_named(self.units.one, Kind.TORQUE)
        self._offer_ranges()
        self.changed.emit()

    def _offer_ranges(self) -> None:
        shape = self.shape
        if shape is None:
            return
        made = []
        for low, high in usual_ranges(shape, self._unit.name):
            words = span(self._unit.to_si(low), self._unit.to_si(high), self._unit)
            made.append((words, words))
        self.ranges.offer(made, [])
        self.range.clear()
        self.range.read_with(self._read_range)

    def _ranged(self) -> None:
        chosen = self.ranges.one
        self.range.line.setText(chosen)
        self.ranges.choose(chosen)
        self.changed.emit()

    def _typed(self) -> None:
        if self.range.text != self.ranges.one:
            self.ranges.choose("")
        self.changed.emit()

    def _ends(self, text: str) -> tuple[float, float]:
        """The range that ``text`` says, in N·m. Raises InputRefused."""
        low, high = read_range(text, default=self._unit)
        if self._fixed and low.si != high.si:
            raise InputRefused("range", text, "this kind has one torque; give that")
        return low.si, high.si

    @property
    def _fixed(self) -> bool:
        return self.shape is not None and SHAPES[self.shape].fixed

    def _read_range(self, text: str) -> tuple[tuple[float, float], str]:
        low, high = self._ends(text)
        if low < high:
            words = f"{number(self._unit.from_si(low))} to {number(self._unit.from_si(high))}"
            return (low, high), f"understood: {words} {self._unit.symbol}"
        what = "" if self._fixed else " is its full scale; its smallest is not known"
        return (high, high), f"understood: {span(high, high, self._unit)}{what}"
