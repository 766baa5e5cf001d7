"""A model that is not in the register yet: by its picture, its range and its drive. The rest can wait."""

from __future__ import annotations

from functools import partial

from PyQt6.QtWidgets import QButtonGroup, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read_range
from reckoner.core.quantities.printing import number, span
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.shop.facts.shapes import SCREWDRIVERS, SHAPES, USUAL_UNITS, Shape, usual_ranges
from reckoner.shop.register.adding import ModelDraft
from reckoner.shop.register.fields import DRIVES
from reckoner.ui.drawings.pictures import ShapePicture
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label


class NewModel(Form[ModelDraft]):
    """Everything can be chosen with the mouse, or typed."""

    def __init__(self, theme: Theme, *, with_names: bool = True) -> None:
        super().__init__(theme)
        self._group = QButtonGroup(self)
        self.pictures: dict[Shape, ShapePicture] = {}
        pictures = QWidget()
        flow = Flow(pictures)
        for shape in Shape:
            picture = ShapePicture(theme, shape)
            self.pictures[shape] = picture
            self._group.addButton(picture)
            flow.addWidget(picture)
        self._all_pictures = True
        self._group.buttonToggled.connect(lambda _button, on: self._shaped() if on else None)
        self.units = self.choice("unit", tr("Unit of its scale"), beside=True)
        self.units.chosen.connect(self._united)
        self.range = self.usual(
            "range",
            tr("Its range"),
            tr("or another range, from its smallest to its full scale"),
            self._read_range,
            wide=32,
        )
        self.drives = self.choice("drive", tr("Its drive"), [(drive, drive) for drive in DRIVES], beside=True)
        self.maker = self.field("maker", tr("Maker, where you know it"), words_reader)
        self.name = self.field("name", tr("Model, where you know it"), words_reader)
        sizes, names = QWidget(), QWidget()
        names.setLayout(row(self.maker, self.name, gap=2))
        sizes.setLayout(
            column(
                row(label(theme, tr("Its range"), Type.LEAD), self.units, gap=2),
                self.range.usual,
                row(
                    self.range,
                    column(label(theme, tr("Its drive"), Type.CAPTION, "quiet"), self.drives, 1, gap=1),
                    gap=2,
                ),
                names,
                gap=1,
            )
        )
        self.others = button(theme, tr("It looks otherwise…"), self._show_all, "link")
        pick = label(theme, tr("What does it look like?"), Type.LEAD)
        self.setLayout(column(row(pick, self.others, 1, gap=2), pictures, sizes, gap=1))
        self.shown(lambda: with_names, names)
        self.shown(lambda: not self._all_pictures, sizes, self.others)
        for shape, picture in self.pictures.items():
            self.shown(partial(self._is_offered, shape), picture)
        self.look()

    def _is_offered(self, shape: Shape) -> bool:
        return self._all_pictures or shape is self.shape

    @property
    def shape(self) -> Shape | None:
        """The chosen kind."""
        found = self._group.checkedButton()
        return found.shape if isinstance(found, ShapePicture) else None

    def value(self) -> ModelDraft:
        """The model as it is described. Raises InputRefused with what is missing."""
        shape = self.shape
        if shape is None:
            raise InputRefused("kind", None, tr("Choose the picture that looks like it."))
        if not self.range.text.strip():
            raise InputRefused("range", "", tr("Choose its range, or type it."))
        low, high, _unit = self.range.value()
        smallest = None if SHAPES[shape].fixed or low == high else low
        return ModelDraft(
            shape, smallest, high, self._unit, self.drives.one, self.maker.text.strip(), self.name.text.strip()
        )

    def said(self) -> str:
        """What has been described, in words; what is missing else."""
        return self.why_not() or self.value().called

    def _show_all(self) -> None:
        """Every picture again; what was given stays."""
        self._all_pictures = True
        self.look()

    def _shaped(self) -> None:
        """A picture was chosen: it alone stays, and what is asked next has the room."""
        units = USUAL_UNITS[self.shape in SCREWDRIVERS]
        on = self.units.one if self.units.one in units else N_M.name
        self.units.offer([(name, unit_named(name, Kind.TORQUE).symbol) for name in units], [on])
        self._all_pictures = False
        self._offer_ranges()

    @property
    def _unit(self) -> Unit:
        return unit_named(self.units.one or N_M.name, Kind.TORQUE)

    def _united(self) -> None:
        self.range.clear()
        self._offer_ranges()

    def _offer_ranges(self) -> None:
        shape, unit = self.shape, self._unit
        if shape is None:
            return
        spans = [span(unit.to_si(low), unit.to_si(high), unit) for low, high in usual_ranges(shape, unit.name)]
        self.range.read_with(self._read_range)
        self.range.offer([(words, words) for words in spans])
        self.look()

    def update_state(self) -> None:
        """The unit that was typed is the unit of its scale."""
        self.range.awaits_number = not self.range.text
        try:
            ends = self.range.value_or_none()
        except InputRefused:
            return
        if ends is not None and ends[2] is not self._unit and ends[2].name in self.units.chips:
            self.units.choose(ends[2].name)
            self._offer_ranges()

    def _read_range(self, text: str) -> tuple[tuple[float, float, Unit], str]:
        from_, to = read_range(text, default=self._unit)
        low, high, unit = from_.si, to.si, to.unit
        fixed = self.shape is not None and SHAPES[self.shape].fixed
        if fixed and low != high:
            raise InputRefused("range", text, tr("this kind has one torque; give that"))
        if low < high:
            words = tr(
                "{from_si} to {from_si_2}", from_si=number(unit.from_si(low)), from_si_2=number(unit.from_si(high))
            )
            return (low, high, unit), tr("understood: {words} {symbol}", words=words, symbol=unit.symbol)
        what = "" if fixed else tr(" is its full scale; its smallest is not known")
        return (high, high, unit), tr("understood: {high}{what}", high=span(high, high, unit), what=what)
