"""How a reference is reached: the ports of this machine, the stand-in, a trace, or what is typed; remembered with it."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.meters.dial import serial_ports
from reckoner.shop import equipment
from reckoner.shop.facts import ReferenceFacts
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label

HELP = (
    "A port such as /dev/ttyUSB0 or socket://host:port speaks Reckoner's protocol; plain:/dev/ttyUSB0?baud=9600&unit=N.m "
    "takes one value a line; replay:/path/pull.csv plays a trace; empty: readings are typed."
)


class Linking(QWidget):
    """Opened for one reference. Signal ``linked()`` when its link was remembered."""

    linked = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._reference: ReferenceFacts | None = None
        self._title = label(around.theme, "", Type.LEAD)
        self._ports = column(gap=1)
        self.typed = EntryField(around.theme, "Link", words_reader)
        self.typed.given.connect(lambda _v: self._set(self.typed.text))
        self._keep = button(around.theme, "Remember this link", lambda: self._set(self.typed.text))
        self.setLayout(
            column(
                self._title,
                self._ports,
                self.typed,
                row(self._keep, 1),
                label(around.theme, HELP, Type.CAPTION, "quiet", wrap=True),
                gap=1,
            )
        )
        self.hide()

    def open_for(self, reference: ReferenceFacts) -> None:
        """Show the choices for ``reference``; a second call closes them."""
        if self.isVisible() and self._reference is not None and self._reference.id == reference.id:
            self.hide()
            return
        self._reference = reference
        self._title.setText(f"How {reference.number} is reached")
        self.typed.line.setText(reference.link)
        empty(self._ports)
        found = serial_ports()
        for port in found[:6]:
            words = f"{port.device}  {port.description}" if port.description else port.device
            self._ports.addWidget(button(self._around.theme, words, partial(self._set, port.device)))
        if not found:
            self._ports.addWidget(
                label(
                    self._around.theme, "No serial port is here now. Plug the meter in and open this again.", Type.BODY
                )
            )
        self.show()
        self.typed.setFocus()

    def _set(self, link: str) -> None:
        reference = self._reference
        if reference is None:
            return
        act = self._around.act()
        self._around.work.ask(
            lambda session: equipment.set_link(session, reference.id, link, act),
            lambda _done: self._done(),
            lambda refusal: self.typed.refuse(str(refusal)),
            changes="references",
        )

    def _done(self) -> None:
        self.hide()
        self.linked.emit()
