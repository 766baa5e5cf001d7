"""How a reference is reached from this station: its serial ports, the stand-in, a trace, or what is typed."""

from __future__ import annotations

from functools import partial

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.meters.dial import checked_link, serial_ports
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label

HELP = tr(
    "A port such as /dev/ttyUSB0 or socket://host:port speaks Reckoner's protocol; "
    "plain:/dev/ttyUSB0?baud=9600&unit=N.m takes one value a line, and with unit=kg or unit=N "
    "those of a hanging scale or force gauge; replay:/path/pull.csv plays a trace; empty: "
    "readings are typed."
)


class Linking(QWidget):
    """Opened for one reference. Signal ``linked()`` when its link was remembered."""

    linked = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._number = ""
        self._title = label(around.theme, "", Type.LEAD)
        self._ports = column(gap=1)
        self.typed = EntryField(around.theme, tr("Link"), words_reader)
        self.typed.given.connect(lambda _v: self._set(self.typed.text))
        self._keep = button(around.theme, tr("Remember this link"), lambda: self._set(self.typed.text))
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

    def open_for(self, number: str, link: str) -> None:
        """Show the choices for the reference ``number``, which is reached by ``link``; a second call closes them."""
        if self.isVisible() and self._number == number:
            self.hide()
            return
        self._number = number
        self._title.setText(tr("How {number} is reached from here", number=number))
        self.typed.line.setText(link)
        empty(self._ports)
        found = serial_ports()
        for port in found[:6]:
            words = f"{port.device}  {port.description}" if port.description else port.device
            self._ports.addWidget(button(self._around.theme, words, partial(self._set, port.device)))
        if not found:
            self._ports.addWidget(
                label(
                    self._around.theme,
                    tr("No serial port is here now. Plug the meter in and open this again."),
                    Type.BODY,
                )
            )
        self.show()
        self.typed.setFocus()

    def _set(self, link: str) -> None:
        try:
            self._around.station.set_link(self._number, checked_link(link))
        except Refused as refusal:
            self.typed.refuse(str(refusal))
            return
        self.hide()
        self.linked.emit()
