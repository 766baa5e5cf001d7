"""The adapters that are put on a tool: from the shop's, or typed; taken off again by their chip."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr
from reckoner.shop.using.fitting import Fitted, ShopAdapter, read_fitted
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField

MOST_ADAPTERS = 4
OFFERED = 8


class PutOn(QWidget):
    """``fitted`` is what is on the tool, from its drive outwards. Signal ``changed()``."""

    changed = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.fitted: tuple[Fitted, ...] = ()
        self._shelf: tuple[ShopAdapter, ...] = ()
        self.own_units = METRIC
        self.shelf = Chips(theme, tr("Adapters of the shop"))
        self.adapter = EntryField(
            theme, tr("Adapter: length, and how it stands"), self._read, tr("such as 45 mm at 90°")
        )
        self.on = Chips(theme, tr("Adapters that are on it"), several=True)
        self.setLayout(column(self.shelf, self.adapter, self.on, gap=1))
        self.adapter.line.keeps_enter = True  # a second Enter is no press of the page's button
        self.adapter.line.editingFinished.connect(self.take_typed)
        self.on.chosen.connect(self._take_off)
        self.shelf.chosen.connect(self._from_shelf)
        self._show_adapters()

    def _read(self, text: str) -> tuple[Fitted, str]:
        found = read_fitted(text, self._shelf, own=self.own_units)
        return found, tr("understood: {words}; it is put on when you go on", words=found.words)

    def offer(self, shelf: tuple[ShopAdapter, ...]) -> None:
        """What the shop has."""
        self._shelf = shelf
        self.shelf.offer(
            [(a.number, f"{a.number} {self.own_units.length_words(a.length)}") for a in shelf[:OFFERED]], []
        )
        self._show_adapters()

    def measure_in(self, own: OwnUnits) -> None:
        """A bare length is in one's ``own`` units from now on."""
        if own != self.own_units:
            self.own_units = own
            example = own.example(Kind.LENGTH, 0.045)
            self.adapter.line.setPlaceholderText(tr("such as {length} at 90°", length=example))
            self.offer(self._shelf)

    def put(self, fitted: tuple[Fitted, ...]) -> None:
        """Exactly these are on it from now on."""
        self.fitted = fitted[:MOST_ADAPTERS]
        self._show_adapters()
        self.changed.emit()

    def turn(self, index: int, angle_rad: float) -> None:
        """One of them stands at another angle."""
        if index < len(self.fitted):
            turned = replace(self.fitted[index], angle_rad=angle_rad)
            self.put((*self.fitted[:index], turned, *self.fitted[index + 1 :]))

    def read(self, texts: tuple[str, ...]) -> tuple[Fitted, ...]:
        """Adapters as a job card names them. Raises InputRefused."""
        return tuple(read_fitted(text, self._shelf, own=self.own_units) for text in texts)

    def _from_shelf(self) -> None:
        found = next((a for a in self._shelf if a.number == self.shelf.one), None)
        self.shelf.choose("")
        if found is not None:
            self._put_on(Fitted(found.length, 0.0, found))

    def take_typed(self) -> None:
        """What is typed and understood is on it, by Enter or when the field is left; a refusal stands at the field."""
        with suppress(InputRefused):
            if (typed := self.adapter.value_or_none()) is not None:
                self._put_on(typed)

    def _put_on(self, fitted: Fitted) -> None:
        if len(self.fitted) < MOST_ADAPTERS:
            self.adapter.clear()
            self.put((*self.fitted, fitted))

    def _take_off(self) -> None:
        kept = {int(key) for key in self.on.on}
        self.adapter.show()
        self.adapter.setFocus()  # before the one that was pressed goes
        self.put(tuple(one for i, one in enumerate(self.fitted) if i in kept))

    def _show_adapters(self) -> None:
        on = [(str(i), f"{one.short}  ×") for i, one in enumerate(self.fitted)]
        self.on.offer(on, [key for key, _ in on])
        self.on.setVisible(bool(on))
        room = len(self.fitted) < MOST_ADAPTERS
        self.adapter.setVisible(room)
        self.shelf.setVisible(bool(self._shelf) and room)
