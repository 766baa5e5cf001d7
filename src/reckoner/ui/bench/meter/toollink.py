"""A tool's own link: what its display shows, beside what the reference reads."""

from __future__ import annotations

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr
from reckoner.meters.protocol import Identity
from reckoner.meters.pull import PullAim
from reckoner.shop.runs.state import RunState
from reckoner.store.station import Station
from reckoner.ui.meterwatch import MeterWatch


def link_name(number: str) -> str:
    """By what name a station remembers the link of the tool ``number``."""
    return f"tool {number}"


class ToolLink(QObject):
    """One tool at a time, that of a run whose pulls are read twice. ``shown(N·m)`` · ``said(sentence, tone)``."""

    shown = pyqtSignal(float)
    said = pyqtSignal(str, str)

    def __init__(self, station: Station, parent: QObject) -> None:
        super().__init__(parent)
        self._station = station
        self._watch: MeterWatch | None = None
        self._link = ""

    def dial(self, run: RunState) -> None:
        """Link to the run's tool where its pulls are read twice, if it is known how; stay linked while it is the same."""
        wanted = run.paired and run.set_up is not None and not run.signed
        link = self._station.link_of(link_name(run.tool.number), "") if wanted else ""
        if link == self._link:
            return
        self.hang_up()
        if not link:
            return
        self._link = link
        target = run.tool.kind.maximum
        watch = self._watch = MeterWatch(
            link, PullAim(target, run.meter_mode, run.tool.mechanism, run.rules.pull), self
        )
        watch.identified.connect(self._identified)
        watch.valued.connect(self.shown)
        watch.shown.connect(self.shown)
        watch.trouble.connect(
            lambda sentence, _over: self.said.emit(tr("The tool: {sentence}", sentence=sentence), "fault")
        )
        watch.recovered.connect(lambda: self.said.emit(tr("The tool is linked again."), "quiet"))
        watch.start()

    def hang_up(self) -> None:
        """Let the tool go."""
        if self._watch is not None:
            self._watch.stop()
            self._watch.deleteLater()
        self._watch, self._link = None, ""
        self.said.emit("", "quiet")

    def _identified(self, identity: Identity) -> None:
        if identity.unit.kind is not Kind.TORQUE:
            self.said.emit(
                tr("The tool's link sends {symbol}, and not a torque.", symbol=identity.unit.symbol), "fault"
            )
        elif identity.rate:
            self.said.emit(tr("The tool's link sends samples; it should send one value a pull."), "fault")
        else:
            self.said.emit(tr("The tool sends what it shows, in {symbol}.", symbol=identity.unit.symbol), "quiet")
