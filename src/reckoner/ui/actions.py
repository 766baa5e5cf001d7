"""Every action of the window: its name, key and tooltip, declared once and used by buttons, menus and the help sheet.

To add an action: a row in ``ACTIONS`` (places have theirs in ``places``); a test sees to it that no key means two things.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QAction, QKeySequence
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.ui.places import PLACES


@dataclass(frozen=True)
class ActionSpec:
    """``keys`` as Qt key sequences; ``held`` when the key acts as long as it is down."""

    id: str
    name: str
    keys: tuple[str, ...]
    tooltip: str
    held: bool = False


ACTIONS: tuple[ActionSpec, ...] = (
    ActionSpec("top-line", tr("Find a tool"), ("J", "/"), tr("Type or scan a tool's number or serial")),
    *(ActionSpec(place.id.value, place.name, (place.key,), place.tooltip) for place in PLACES),
    ActionSpec("primary", tr("Do the main thing"), ("Return", "Enter"), tr("Does what the blue button says")),
    ActionSpec("pull", tr("Pull"), ("Space",), tr("Hold to pull the simulated tool; let go at its signal"), held=True),
    ActionSpec(
        "strike", tr("Strike the last reading"), ("Backspace",), tr("Strikes it and asks why; it stays visible")
    ),
    ActionSpec("undo", tr("Take back"), ("Ctrl+Z",), tr("Takes the last change of the register back")),
    ActionSpec("redo", tr("Do again"), ("Ctrl+Shift+Z",), tr("Does again what was taken back last")),
    ActionSpec(
        "check", tr("Two-minute check"), ("Ctrl+T",), tr("Puts the tool in front on the bench for a quick check")
    ),
    ActionSpec(
        "happened",
        tr("Something happened to it"),
        ("Ctrl+E",),
        tr("Records a fall, a hold and the like of the tool in front"),
    ),
    ActionSpec(
        "print",
        tr("Print"),
        ("Ctrl+P",),
        tr("Shows the results of the tool in front as they print; in Records, prints"),
    ),
    ActionSpec(
        "far", tr("Reading over the whole screen"), ("F11",), tr("To be read from three metres; Escape comes back")
    ),
    ActionSpec("mute", tr("Sound on or off"), ("Ctrl+M",), tr("Remembered")),
    ActionSpec(
        "speech",
        tr("Speech on or off"),
        ("Ctrl+Shift+M",),
        tr("The bench says each result and what to do next; remembered"),
    ),
    ActionSpec("person", tr("Who is at the bench"), ("Ctrl+I",), tr("Choose whose initials sign")),
    ActionSpec("dark", tr("Dark or light"), ("Ctrl+D",), tr("For a dim bench")),
    ActionSpec("keys", tr("Keys"), ("F1",), tr("Shows this sheet")),
)

BY_ID = {spec.id: spec for spec in ACTIONS}


def tooltip(action_id: str) -> str:
    """The tooltip with its keys."""
    spec = BY_ID[action_id]
    return f"{spec.tooltip} ({key_words(action_id)})"


def key_words(action_id: str) -> str:
    return " or ".join(QKeySequence(k).toString(QKeySequence.SequenceFormat.NativeText) for k in BY_ID[action_id].keys)


def bind(owner: QWidget, action_id: str, call: Callable[[], None]) -> QAction:
    """A QAction on ``owner`` that its keys reach from anywhere in the window."""
    spec = BY_ID[action_id]
    action = QAction(spec.name, owner)
    action.setShortcuts([QKeySequence(k) for k in spec.keys])
    action.setShortcutContext(Qt.ShortcutContext.WindowShortcut)
    action.triggered.connect(lambda: call())
    owner.addAction(action)
    return action
