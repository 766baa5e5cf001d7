"""Chips with their name at the left, all names of a sheet equally wide."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label


def named(theme: Theme, words: str, chips: Chips) -> QWidget:
    """Chips with their name at the left."""
    made, name = QWidget(), label(theme, words, Type.BODY, "quiet")
    name.setFixedWidth(12 * GRID)
    layout = row(name, chips, gap=1)
    layout.setStretch(1, 1)
    made.setLayout(layout)
    return made
