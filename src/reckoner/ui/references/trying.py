"""Trying a link out: what the meter sends, line by line, and what is understood of it. Nothing of it is kept."""

from __future__ import annotations

from PyQt6.QtCore import QTimer
from PyQt6.QtWidgets import QWidget

from reckoner.core.quantities.arrays import Values
from reckoner.core.quantities.printing import quantity, reading_decimals
from reckoner.core.quantities.units import N_M
from reckoner.core.requirements.tooltypes import MeterMode
from reckoner.core.translation import tr
from reckoner.meters.protocol import Identity
from reckoner.meters.pull import PullAim
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.ui.layout import column, row
from reckoner.ui.meterwatch import MeterWatch
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.text import ElidedLabel, label, set_tone

EVERY_MS = 200


class LinkTrial(QWidget):
    """Listens while it is asked to; the bench's own connection is another one."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self._reference: ReferenceFacts | None = None
        self._link = ""
        self._watch: MeterWatch | None = None
        self._decimals = 2
        self._unit = N_M
        self._newest: float | None = None
        self.button = button(theme, tr("Listen to it"), self.toggle)
        self.line = ElidedLabel(theme, "", Type.FIGURE)
        self.line.setAccessibleDescription(tr("The newest line that the meter sent"))
        self.means = label(theme, "", Type.LEAD, wrap=True)
        self._timer = QTimer(self)
        self._timer.setInterval(EVERY_MS)
        self._timer.timeout.connect(self._tick)
        head = row(label(theme, tr("What it sends"), Type.LEAD), 1, self.button, gap=2)
        self.setLayout(column(head, self.line, self.means, gap=1))

    def show_reference(self, reference: ReferenceFacts, link: str) -> None:
        """Another reference, or another link: what was listened to is let go."""
        same = self._reference is not None and (self._reference.id, self._link) == (reference.id, link)
        if not same:
            self.stop()
            self.line.set_whole("")
            self.means.setText("")
        self._reference, self._link = reference, link
        self.button.setVisible(bool(link))
        if not link:
            self.means.setText(tr("It has no link: its readings are typed."))
            set_tone(self.means, "quiet")

    def toggle(self) -> None:
        """Begin to listen, or stop."""
        if self._watch is not None:
            self.stop()
            return
        reference = self._reference
        if reference is None or not self._link:
            return
        url = self._around.meter_url(reference, self._link)
        self._newest = None
        self._say(tr("Waiting for it to say something…"), "quiet")
        self._watch = MeterWatch(url, PullAim(reference.maximum, MeterMode.PEAK))
        self._watch.identified.connect(self._identified)
        self._watch.samples.connect(self._samples)
        self._watch.valued.connect(self._valued)
        self._watch.trouble.connect(self._trouble)
        self._watch.start()
        self._timer.start()
        self.button.setText(tr("Stop listening"))

    def stop(self) -> None:
        """Let the meter go."""
        self._timer.stop()
        watch, self._watch = self._watch, None
        if watch is not None:
            watch.stop()
        self.button.setText(tr("Listen to it"))

    def _identified(self, who: Identity) -> None:
        self._unit = who.unit
        self._decimals = reading_decimals(
            who.step or (self._reference.resolution if self._reference else 0.0), who.unit
        )
        named = f"{who.number} {who.serial}".strip()
        rate = tr(", {rate:g} samples a second", rate=who.rate) if who.rate else tr(", one value a line")
        self._say(
            tr(
                "It says who it is: {named}, in {symbol}{rate}.",
                named=named or tr("a plain meter"),
                symbol=who.unit.symbol,
                rate=rate,
            ),
            "good",
        )

    def _samples(self, torque: Values, _rate: float) -> None:
        if len(torque):
            self._newest = float(torque[-1])

    def _valued(self, torque: float) -> None:
        self._newest = torque

    def _trouble(self, sentence: str, over: bool) -> None:
        self._say(sentence, "fault")
        if over:
            self.stop()

    def _tick(self) -> None:
        watch = self._watch
        if watch is None:
            return
        self.line.set_whole(watch.heard)
        if self._newest is not None:
            self._say(
                tr("This line means {newest}.", newest=quantity(self._newest, self._unit, self._decimals)), "good"
            )

    def _say(self, words: str, tone: str) -> None:
        self.means.setText(words)
        set_tone(self.means, tone)
