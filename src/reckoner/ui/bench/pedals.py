"""Foot pedals: a pedal is a key, and any key that writes nothing can be given to what a foot does at the bench, and tried.

A key that writes is typed by scanners too: one that took a letter of a scanned number for an answer would put it on record.

To add what a pedal can do: a member of ``PedalUse``, its words, and what it calls in ``BenchPlace``.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from enum import StrEnum
from functools import partial

from PyQt6.QtCore import QEvent, QKeyCombination, QObject, Qt
from PyQt6.QtGui import QKeyEvent, QKeySequence
from PyQt6.QtWidgets import QDialog, QGridLayout, QLabel, QPushButton, QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import mark, tr
from reckoner.store.station import Station
from reckoner.ui.actions import ACTIONS
from reckoner.ui.layout import column
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import label, set_tone


class PedalUse(StrEnum):
    """What a pedal does."""

    CLICKED = mark("It clicked")
    SILENT = mark("It was silent")
    NEXT = mark("Next: what the blue button says")
    STRIKE = mark("Strike the last reading")


MODIFIERS = frozenset(
    {
        Qt.Key.Key_Shift, Qt.Key.Key_Control, Qt.Key.Key_Alt, Qt.Key.Key_Meta, Qt.Key.Key_AltGr, Qt.Key.Key_CapsLock,
        Qt.Key.Key_unknown,
    }
)  # fmt: skip


def key_named(event: QKeyEvent) -> str:
    """A key with what is held beside it, as the station's settings keep it; empty for one that is only held."""
    if Qt.Key(event.key()) in MODIFIERS:
        return ""
    held = event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier
    pressed = QKeySequence(QKeyCombination(held, Qt.Key(event.key())))
    return pressed.toString(QKeySequence.SequenceFormat.PortableText)


def taken_for(key: str) -> str:
    """What a key does in the window already; empty where it is free."""
    bench = {"C": PedalUse.CLICKED, "S": PedalUse.SILENT, "Esc": tr("Close what is open"), "Tab": tr("The next field")}
    bound = {QKeySequence(k).toString(): spec.name for spec in ACTIONS for k in spec.keys}
    writes = tr("it writes, and a scanner types it too") if len(key) == 1 else ""
    return str(bound.get(key) or bench.get(key, "") or writes)


class Pedals(QObject):
    """The keys that pedals send on this station. ``calls`` are what each does; ``ready()``: the screen that it would act on
    was seen."""

    def __init__(
        self,
        parent: QObject,
        station: Station,
        calls: Mapping[PedalUse, Callable[[], object]],
        ready: Callable[[], bool],
    ) -> None:
        super().__init__(parent)
        self._station, self._calls, self._ready = station, calls, ready
        self.sheet: PedalSheet | None = None

    @property
    def keys(self) -> dict[PedalUse, str]:
        """The key of each use that has one."""
        kept = self._station.settings.pedals
        return {use: kept[use.name] for use in PedalUse if kept.get(use.name)}

    def give(self, use: PedalUse, key: str) -> None:
        """Give a use its key, and take it from any other; an empty one frees it. Raises Refused: the key does something else,
        or the settings cannot be written."""
        does = taken_for(key)
        if does:
            raise KeyTaken(key, does)
        kept = {u.name: k for u, k in self.keys.items() if k != key and u is not use}
        self._station.keep(pedals={**kept, use.name: key} if key else kept)

    def show_sheet(self, theme: Theme, parent: QWidget) -> None:
        """Open the sheet on which pedals are given and tried, or close it."""
        if self.sheet is None:
            self.sheet = PedalSheet(theme, parent, self)
        self.sheet.setVisible(not self.sheet.isVisible())

    def use_of(self, event: QKeyEvent) -> PedalUse | None:
        """What a press is for; None where it is no pedal's."""
        key = key_named(event)
        return next((use for use, own in self.keys.items() if own == key), None) if key else None

    def key(self, event: QEvent) -> bool:
        """A pedal is pressed; whether it was one."""
        if not isinstance(event, QKeyEvent) or event.type() != QEvent.Type.KeyPress:
            return False
        use = self.use_of(event)
        if use is None:
            return False
        if not event.isAutoRepeat() and self._ready():
            self._calls[use]()
        return True


class KeyTaken(Refused):
    """A key does something in the window already."""

    def __init__(self, key: str, does: str) -> None:
        super().__init__(key, does)
        self.taken, self.does = key, does

    def __str__(self) -> str:
        return tr("{key} is taken ({does}): let the pedal send another.", key=self.taken, does=self.does)


class PedalSheet(QDialog):
    """Not modal. A button for each use waits for the next key; a pedal that has one is tried by pressing it."""

    def __init__(self, theme: Theme, parent: QWidget, pedals: Pedals) -> None:
        super().__init__(parent)
        self.setModal(False)
        self.setWindowTitle(tr("Foot pedals"))
        self._pedals = pedals
        self._waiting: PedalUse | None = None
        grid = QGridLayout()
        grid.setHorizontalSpacing(3 * GRID)
        grid.setVerticalSpacing(GRID)
        grid.setColumnStretch(2, 1)
        self.buttons: dict[PedalUse, QPushButton] = {}
        self.told: dict[PedalUse, QLabel] = {}
        for i, use in enumerate(PedalUse):
            grid.addWidget(label(theme, tr(use), Type.BODY), i, 0)
            self.buttons[use] = button(theme, "", partial(self._wait_for, use))
            self.buttons[use].setMinimumWidth(26 * GRID)
            self.buttons[use].setFocusPolicy(Qt.FocusPolicy.NoFocus)
            grid.addWidget(self.buttons[use], i, 1)
            self.told[use] = label(theme, "", Type.BODY, "quiet", wrap=True)
            self.told[use].setMinimumWidth(34 * GRID)
            grid.addWidget(self.told[use], i, 2)
        how = tr(
            "A pedal sends a key: let it be one that writes nothing, such as F13 or Page Down. Press a button, then the "
            "pedal; press the pedal again to try it. Delete frees it."
        )
        title, told = label(theme, tr("Foot pedals"), Type.TITLE), label(theme, how, Type.BODY, "quiet", wrap=True)
        self.setLayout(column(title, told, grid, gap=2, margin=3))
        self._show_keys()

    def _wait_for(self, use: PedalUse) -> None:
        self._waiting = None if self._waiting is use else use
        self._show_keys()

    def _show_keys(self) -> None:
        for use, one in self.buttons.items():
            key = self._pedals.keys.get(use, "")
            one.setText(tr("Press the pedal now") if self._waiting is use else key or tr("Give it a pedal…"))

    def _tell(self, use: PedalUse, words: str, tone: str) -> None:
        for other, one in self.told.items():
            one.setText(words if other is use else "")
        set_tone(self.told[use], tone)

    def event(self, event: QEvent | None) -> bool:
        """No shortcut of the window comes between: the key is named, and what it does there is told."""
        if event is not None and event.type() == QEvent.Type.ShortcutOverride:
            event.accept()
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is None:
            return
        if event.key() == Qt.Key.Key_Escape and self._waiting is None:
            super().keyPressEvent(event)
            return
        key, waiting = key_named(event), self._waiting
        if not key:
            return
        if waiting is None:
            use = self._pedals.use_of(event)
            if use is not None:
                self._tell(use, tr("It came. That pedal works."), "good")
            return
        self._waiting = None
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_Delete):
            self._free(waiting)
        else:
            try:
                self._pedals.give(waiting, key)
                self._tell(waiting, tr("Press it once more to try it."), "quiet")
            except Refused as refusal:
                self._tell(waiting, str(refusal), "fault")
        self._show_keys()

    def _free(self, use: PedalUse) -> None:
        """It has no pedal any more."""
        try:
            self._pedals.give(use, "")
            self._tell(use, tr("It has no pedal now."), "quiet")
        except Refused as refusal:
            self._tell(use, str(refusal), "fault")
