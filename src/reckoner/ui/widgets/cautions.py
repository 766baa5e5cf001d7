"""What could hurt a person or a thing with what is on the bench; always in sight, whatever scrolls beside it."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFrame

from reckoner.core.translation import tr
from reckoner.shop.procedure import Caution
from reckoner.shop.words.results import CAUTION_WORDS
from reckoner.ui.layout import row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.text import label


class Cautions(QFrame):
    """Cautions in words."""

    def __init__(self, theme: Theme, cautions: tuple[Caution, ...]) -> None:
        super().__init__()
        self.setProperty("class", "notice")
        self.words = label(theme, "", wrap=True)
        title = label(theme, tr("Mind"), Type.STRONG)
        layout = row(title, self.words, gap=2, margin=2)
        layout.setStretch(1, 1)
        layout.setAlignment(title, Qt.AlignmentFlag.AlignTop)
        self.setLayout(layout)
        self.show_cautions(cautions)

    def show_cautions(self, cautions: tuple[Caution, ...]) -> None:
        """Others hold now."""
        self.words.setText(" ".join(CAUTION_WORDS[c] for c in cautions))
