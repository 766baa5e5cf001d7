"""What the room is while a run is set up: typed, or brought by the meter's own sensors.

What a run that is over in two minutes takes by itself: the zero that is seen, and the room as the meter's sensors say.
"""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import pyqtSignal

from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.printing import fixed
from reckoner.core.translation import tr
from reckoner.meters.protocol import RoomReport
from reckoner.shop.runs import setting_up
from reckoner.shop.runs.loading import room_fits
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants_now
from reckoner.store.terms import RoomSource, ZeroMoment
from reckoner.ui.bench.panel import BenchAccess
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import plain_reader, temperature_reader, words_reader
from reckoner.ui.widgets.form import Form, goes_on
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


@dataclass(frozen=True)
class RoomDraft:
    """In °C and as a part of saturation; the ``reason`` to go on in a room that does not fit."""

    temperature: float
    humidity: float
    reason: str
    source: RoomSource


class RoomForm(Form[RoomDraft]):
    """Enter after the temperature goes on to the humidity; a room that does not fit the rule set wants a reason. Signal
    ``unmeasured()``: a person says that nobody measured it."""

    unmeasured = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._asks_why = self._brought = False
        self.own_units = METRIC
        self.temperature = self.field("temperature", tr("Temperature"), temperature_reader(METRIC), tr("in °C or °F"))
        self.humidity = self.field("humidity", tr("Humidity"), plain_reader(0, 100, "%"), tr("in %"))
        self.reason = self.field("reason", tr("Why go on in this room"), words_reader)
        goes_on(self.temperature, self.humidity)
        self.temperature.offer_steps(theme, 21.0, 0.1, lambda celsius: self.own_units.temperature_words(celsius))
        self.humidity.offer_steps(theme, 50, 1)
        self.temperature.awaits_number = self.humidity.awaits_number = True
        self.not_measured = button(theme, tr("It was not measured"), self.unmeasured.emit, "link")
        self.costs = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.from_meter = label(theme, "", Type.CAPTION, "quiet")
        self.shown(lambda: self._brought, self.from_meter)
        self.shown(lambda: self._asks_why, self.reason)
        self.setLayout(
            column(
                row(self.temperature, self.humidity, gap=2),
                self.from_meter,
                self.reason,
                row(self.not_measured, self.costs, 1, gap=1),
                gap=1,
            )
        )

    def start(self, own: OwnUnits) -> None:
        """Nothing is said yet; a bare temperature is in one's ``own`` degrees."""
        with self.filling():
            self.own_units = own
            self.temperature.read_with(temperature_reader(own))
            self.clear()
            self._asks_why = self._brought = False

    @property
    def untouched(self) -> bool:
        """Whether nothing stands in it."""
        return not self.temperature.text and not self.humidity.text

    def bring(self, report: RoomReport) -> None:
        """What the meter says the room is; it can be typed over."""
        with self.filling():
            self.temperature.line.setText(self.own_units.temperature_words(round(report.temperature, 1)))
            self.humidity.line.setText(fixed(report.humidity * 100, 0))
            self.from_meter.setText(tr("From the meter's own sensors; type over them if they are wrong."))
            self._brought = True

    def value(self) -> RoomDraft:
        source = RoomSource.METER if self._brought else RoomSource.TYPED
        return RoomDraft(self.temperature.value(), self.humidity.value() / 100, self.reason.text, source)

    def ask_why(self) -> None:
        """It does not fit: ask for the reason to go on."""
        self._asks_why = True
        self.look()
        self.reason.setFocus()


def leave_room_unmeasured(desk: BenchAccess, run: RunState | None) -> None:
    """Nobody measured the room: the record says so."""
    if run is not None:
        desk.do(call(setting_up.record_room_not_measured, run.id, desk.around.act()))


def take_zero(desk: BenchAccess, run: RunState) -> None:
    """The zero before is not asked for: the meter rests within its tolerance."""
    shown, reference = desk.meter.zero(), run.reference
    if shown is None or reference is None or not run.policy.glance or not wants_now(run, Need.ZERO):
        return
    if abs(shown) <= reference.zero_tolerance:
        desk.do(call(setting_up.record_zero, run.id, ZeroMoment.BEFORE, shown, desk.around.act()), by_hand=False)


def take_room(desk: BenchAccess, run: RunState, report: RoomReport) -> None:
    """The room is taken, and shown, where it is fit; otherwise it is asked for."""
    if room_fits(report.temperature, report.humidity, run.rules):
        temperature, humidity, by = report.temperature, report.humidity, RoomSource.METER
        desk.do(
            call(setting_up.record_room, run.id, temperature, humidity, "", desk.around.act(), by),
            by_hand=False,
        )
