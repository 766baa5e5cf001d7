"""Of lines that are widgets as many as are looked at, however many there are."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TypeVar

from reckoner.core.translation import tr_count
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.buttons import button

T = TypeVar("T")

STEP = 12


class ShowMore:
    """``part`` gives the first lines of some; its ``button`` shows as many again by calling ``show``."""

    def __init__(self, theme: Theme, show: Callable[[], None]) -> None:
        self._show = show
        self._shown = STEP
        self.button = button(theme, "", self._more, "link")
        self.button.hide()

    def begin(self) -> None:
        """Lines of something else come: as many as at first."""
        self._shown = STEP

    def part(self, lines: Sequence[T]) -> Sequence[T]:
        """Those that are shown now."""
        left = len(lines) - self._shown
        self.button.setVisible(left > 0)
        self.button.setText(tr_count("Show {n} more", "Show {n} more", min(left, STEP)) if left > 0 else "")
        return lines[: self._shown]

    def _more(self) -> None:
        self._shown += STEP
        self._show()
