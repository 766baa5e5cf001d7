"""Holding a pull on the simulated tool: by Space wherever the focus is on the bench, or by the primary button held down."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QLineEdit

from reckoner.ui.bench.panel import Action
from reckoner.ui.bench.presenter import BenchPresenter

KEY_UP_MS = 40
"""A key that comes down again within this time was repeating, not let go: some displays send both for a held key."""


class Pulling(QObject):
    """``action()`` is what the bench offers now, when it was seen; ``fields()`` those in which Space pulls while they are
    empty."""

    def __init__(
        self,
        presenter: BenchPresenter,
        action: Callable[[], Action | None],
        fields: Callable[[], tuple[QLineEdit, ...]],
    ) -> None:
        super().__init__(presenter)
        self._presenter = presenter
        self._action = action
        self._fields = fields
        self._key_up = QTimer(self)
        self._key_up.setSingleShot(True)
        self._key_up.setInterval(KEY_UP_MS)
        self._key_up.timeout.connect(self.let_go)

    def button_down(self) -> None:
        action = self._action()
        if action is not None and action.held:
            self._presenter.meter.pull()

    def let_go(self) -> None:
        meter, run = self._presenter.meter, self._presenter.run
        if meter.pulling:
            meter.let_go()
            if run is not None:
                meter.aim(run)

    def allowed(self) -> bool:
        """Space pulls now: the action is one of pulling, and no field with words has the focus."""
        action = self._action()
        typing = isinstance(QApplication.focusWidget(), QLineEdit) and not self._in_empty_field()
        return action is not None and (action.held or action.pulls) and not typing

    def _in_empty_field(self) -> bool:
        focused = QApplication.focusWidget()
        return isinstance(focused, QLineEdit) and focused in self._fields() and not focused.text().strip()

    def key(self, event: QEvent) -> bool:
        """Space down and up; True when it was the bench's."""
        if not isinstance(event, QKeyEvent) or event.key() != Qt.Key.Key_Space:
            return False
        pulling = self._presenter.meter.pulling
        if event.type() == QEvent.Type.KeyPress and (pulling or self.allowed()):
            self._key_up.stop()
            if not event.isAutoRepeat():
                self._presenter.meter.pull()
            return True
        if event.type() == QEvent.Type.KeyRelease and pulling:
            if not event.isAutoRepeat():
                self._key_up.start()
            return True
        return self._in_empty_field()  # where it cannot pull yet it is no blank either: the next one would be typed too
