"""A row of short choices of which one, or any number, is chosen.

Chips with their name at the left, all names of a sheet equally wide.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QPushButton, QSizePolicy, QWidget

from reckoner.core.translation import tr
from reckoner.ui.layout import empty, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.text import label, set_tone


class Chips(QWidget):
    """``several`` allows more than one; ``beside`` something else they take the room that is left. Signal ``chosen()`` when a
    person has changed the choice."""

    chosen = pyqtSignal()

    def __init__(self, theme: Theme, name: str, *, several: bool = False, beside: bool = False) -> None:
        super().__init__()
        self._theme = theme
        self._several = several
        self.chips: dict[str, QPushButton] = {}
        self._on: set[str] = set()
        self._offered: list[tuple[str, str]] = []
        self.setAccessibleName(name)
        self._row = Flow(self)
        wide = QSizePolicy.Policy.Expanding if beside else QSizePolicy.Policy.Preferred
        policy = QSizePolicy(wide, QSizePolicy.Policy.Minimum)
        policy.setHeightForWidth(True)
        self.setSizePolicy(policy)

    def offer(self, choices: Sequence[tuple[str, str]], on: Sequence[str]) -> None:
        """Show ``choices`` as (key, words), those in ``on`` chosen. The same ones as before stay, and keep the focus."""
        self._on = set(on)
        if list(choices) == self._offered:
            self._update_state()
            return
        empty(self._row)
        self.chips = {}
        self._offered = list(choices)
        for key, words in choices:
            chip = button(self._theme, words, partial(self._toggle, key), "chip")
            chip.setFont(self._theme.font(Type.STRONG))
            chip.setCheckable(True)
            chip.setFocusPolicy(Qt.FocusPolicy.TabFocus)  # the mouse leaves Enter to the primary thing
            self.chips[key] = chip
            self._row.addWidget(chip)
        self.updateGeometry()
        self._update_state()

    @property
    def on(self) -> tuple[str, ...]:
        """The chosen keys, in the order offered."""
        return tuple(key for key in self.chips if key in self._on)

    @property
    def one(self) -> str:
        """The chosen key; empty when there is none."""
        return self.on[0] if self.on else ""

    def choose(self, key: str) -> None:
        """Choose one without telling; "" for none."""
        self._on = {key} if key else set()
        self._update_state()

    def _toggle(self, key: str) -> None:
        if not self._several:
            self._on = {key}
        elif key in self._on:
            self._on.discard(key)
        else:
            self._on.add(key)
        self._update_state()
        self.chosen.emit()

    def _update_state(self) -> None:
        for key, chip in self.chips.items():
            chip.setChecked(key in self._on)
            set_tone(chip, "chosen" if key in self._on else "chip")
            chip.setAccessibleName(
                tr(
                    "{accessiblename}: {text}{also}",
                    accessiblename=self.accessibleName(),
                    text=chip.text(),
                    also=tr(", chosen") if key in self._on else "",
                )
            )


def named(theme: Theme, words: str, chips: Chips) -> QWidget:
    """Chips with their name at the left."""
    made, name = QWidget(), label(theme, words, Type.BODY, "quiet")
    name.setFixedWidth(12 * GRID)
    layout = row(name, chips, gap=1)
    layout.setStretch(1, 1)
    made.setLayout(layout)
    return made
