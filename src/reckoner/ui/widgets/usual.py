"""A field for something that usually is one of a few: those to press, and a line for any other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TypeVar

from reckoner.core.errors import InputRefused
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader

T = TypeVar("T")


class UsualEntry(EntryField[T]):
    """What stands in the line counts; the choice in ``usual``, which stand where their form lays them out, that means the
    same is shown as chosen."""

    def __init__(
        self, theme: Theme, words: str, other: str, understand: TextReader[T], *, beside: bool = False
    ) -> None:
        super().__init__(theme, other, understand)
        self.usual = Chips(theme, words, beside=beside)
        self.usual.chosen.connect(lambda: self.line.setText(self.usual.one))
        self.line.textChanged.connect(self._mark)

    def offer(self, choices: Sequence[tuple[str, str]]) -> None:
        """Offer ``choices`` as (what is typed for it, its words)."""
        self.usual.offer(choices, [])
        self._mark(self.text)

    def _mark(self, text: str) -> None:
        meant = self._meaning(text)
        self.usual.choose(next((c for c in self.usual.chips if meant is not None and self._meaning(c) == meant), ""))

    def _meaning(self, text: str) -> T | None:
        try:
            return self._understand(text)[0] if text.strip() else None
        except InputRefused:
            return None
