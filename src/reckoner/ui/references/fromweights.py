"""The torque that known weights make on an arm, for holding a meter against them."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.printing import percent, quantity
from reckoner.core.stack import HEAVIEST
from reckoner.core.units import N_M, Kind, Unit, unit_named
from reckoner.shop import hanging
from reckoner.shop.hanging import BoxWeight, HungAt, LeverFacts
from reckoner.shop.procedures import Caution
from reckoner.shop.wording import CAUTION_WORDS
from reckoner.store.reader import Reader
from reckoner.ui.layout import column
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, quantity_reader
from reckoner.ui.widgets.text import label

MM, KG = unit_named("mm", Kind.LENGTH), unit_named("kg", Kind.MASS)


class FromWeights(QWidget):
    """The meter is zeroed with the arm in place, so that the arm's own weight does not count. Signal ``made(torque, words)``:
    in N·m, None while what stands there makes nothing, and what hangs where."""

    made = pyqtSignal(object, str)

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._unit = N_M
        self._box: tuple[BoxWeight, ...] = ()
        self._where = (9.80665, hanging.ANYWHERE)
        theme = around.theme
        self.weights = Chips(theme, "What hangs", several=True)
        self.weights.chosen.connect(self._look)
        self.arm = EntryField(theme, "At, from the drive's centre", quantity_reader(Kind.LENGTH, MM), "such as 500 mm")
        self.arm.line.textChanged.connect(lambda _text: self._look())
        words = (
            f"Zero the meter with the arm on it, level, then hang the weights. {CAUTION_WORDS[Caution.HANGING_WEIGHTS]}"
        )
        self.told = label(theme, "", Type.LEAD, wrap=True)
        self.setLayout(
            column(label(theme, words, Type.BODY, "quiet", wrap=True), self.weights, self.arm, self.told, gap=1)
        )

    def begin(self, unit: Unit) -> None:
        """Ask for the box; torques are said in ``unit``."""
        self._unit = unit

        def ask(reader: Reader) -> tuple[tuple[BoxWeight, ...], tuple[float, float]]:
            return hanging.box(reader), hanging.gravity(reader)

        self._around.work.look(ask, self._show)

    def _show(self, found: tuple[tuple[BoxWeight, ...], tuple[float, float]]) -> None:
        self._box, self._where = found
        self.weights.offer([(w.number, w.number) for w in self._box], [])
        self._look()

    def _look(self) -> None:
        chosen = tuple(w.hung for w in self._box if w.number in self.weights.on)
        try:
            arm = float(str(self.arm.value())) if self.arm.text.strip() else 0.0
        except InputRefused:
            arm = 0.0
        hung = HungAt(1.0, chosen, arm)
        lacks = self._lacks(hung)
        if lacks:
            self.told.setText(lacks)
            self.made.emit(None, "")
            return
        lever = LeverFacts((hung,), 0.0, 0.0, None, gravity=self._where[0], gravity_uncertainty=self._where[1])
        torque, where = lever.torque(hung), f"{hung.words} at {quantity(arm, MM)}"
        worth = f"W {percent(lever.worth(hung), 2)}" if lever.proven else "stamps alone: not to be believed"
        self.told.setText(f"{where} makes {hanging.torque_words(lever, hung, self._unit)}, {worth}.")
        self.made.emit(torque, where)

    def _lacks(self, hung: HungAt) -> str:
        """Why nothing is made yet; empty when something is."""
        if not self._box:
            return "There are no weights in the register yet; add them above."
        if hung.mass > HEAVIEST:
            return f"{quantity(hung.mass, KG)} is more than one person should lift; hang less, further out."
        if hung.hook > hanging.LONGEST_LEVER:
            return "That cannot be an arm's length: measure it from the drive's centre, and give its unit."
        return "" if hung.weights and hung.hook > 0 else "Press what hangs, and say where."
