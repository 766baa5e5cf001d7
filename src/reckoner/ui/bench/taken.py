"""What a run that is over in two minutes takes by itself: the zero that is seen, and the room as the meter's sensors say."""

from __future__ import annotations

from reckoner.meters.protocol import RoomReport
from reckoner.shop.runs import setting_up
from reckoner.shop.runs.loading import room_fits
from reckoner.shop.runs.needs import Need
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import wants_now
from reckoner.store.terms import RoomSource, ZeroMoment
from reckoner.ui.bench.panel import Desk
from reckoner.ui.work import call


def take_zero(desk: Desk, run: RunState) -> None:
    """The zero before is not asked for: the meter rests within its tolerance."""
    shown, reference = desk.meter.zero(), run.reference
    if shown is None or reference is None or not run.policy.glance or not wants_now(run, Need.ZERO):
        return
    if abs(shown) <= reference.zero_tolerance:
        desk.do(call(setting_up.record_zero, run.id, ZeroMoment.BEFORE, shown, desk.around.act()), by_hand=False)


def take_room(desk: Desk, run: RunState, report: RoomReport) -> None:
    """The room is taken, and shown, where it is fit; otherwise it is asked for."""
    if room_fits(report.temperature, report.humidity, run.rules):
        temperature, humidity, by = report.temperature, report.humidity, RoomSource.METER
        desk.do(
            call(setting_up.record_room, run.id, temperature, humidity, "", desk.around.act(), by),
            by_hand=False,
        )
