"""Tries that were noted by hand where there is no screen: read from one line, and kept together or not at all.

"48 c, 52 s, 50 c": what was varied (a setting, where the hook hung, or the number of the stack on the sheet), and whether it
clicked or stayed silent.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read, read_torque
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.trips import hook_detail, rung_detail
from reckoner.shop.procedures.weights import finding_of
from reckoner.shop.runs.opening import opened
from reckoner.shop.runs.records import NOTHING, SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.taking import observe
from reckoner.store.terms import ObservationKind, Source

_TRY = re.compile(r"\s*[,;]?\s*(?P<at>.+?)\s*\b(?P<said>clicked|click|silent|c|s)\b\.?", re.IGNORECASE)

MOST = 60
"""Tries on one line: more were not noted at one point."""


@dataclass(frozen=True)
class NotedTry:
    """``at`` as it was noted, and what the tool did."""

    at: str
    kind: ObservationKind


def read_noted(text: str) -> tuple[NotedTry, ...]:
    """The tries of a line. Raises InputRefused for what is not understood.

    >>> [(t.at, t.kind.name) for t in read_noted("48 c, 52,5 s; 50 clicked")]
    [('48', 'CLICKED'), ('52,5', 'SILENT'), ('50', 'CLICKED')]
    """
    found, place = [], 0
    for match in _TRY.finditer(text):
        if match.start() != place:
            break
        clicked = match["said"].casefold().startswith("c")
        found.append(NotedTry(match["at"], ObservationKind.CLICKED if clicked else ObservationKind.SILENT))
        place = match.end()
    left = text[place:].strip(" ,;.")
    if left or not found:
        raise InputRefused(
            "noted", text, tr("“{left}” is not understood; write such as 48 c, 52 s", left=left or text.strip())
        )
    if len(found) > MOST:
        raise InputRefused("noted", text, tr("that is more than {most} tries", most=MOST))
    return tuple(found)


def seen_at(run: RunState, series: SeriesState, noted: NotedTry) -> NewObservation:
    """What was noted, as it comes to be kept at a series of a run with weights. Raises InputRefused."""
    match finding_of(run):
        case TripFinding.SETTING:
            setting, detail = read_torque(noted.at, run.tool.unit)[0], NOTHING
        case TripFinding.HOOK:
            hook = read(noted.at, Kind.LENGTH, default=run.tool.own_units.length, field="noted").si
            setting, detail = series.target, hook_detail(hook)
        case TripFinding.WEIGHTS:
            if not noted.at.strip().isdecimal():
                raise InputRefused("noted", noted.at, tr("give the number of the stack on the sheet, such as 3 c"))
            setting, detail = series.target, rung_detail(int(noted.at) - 1)
    return NewObservation(noted.kind, None, Source.TYPED, tool_value=setting, detail=detail)


@command
def keep_noted(session: Session, run_id: int, noted: tuple[NotedTry, ...], act: Act) -> RunState:
    """Keep tries at the point that the run is at, in the order they were made. Raises ShopRefused, and then keeps none:
    what cannot be, or more than the point takes; InputRefused for what is not understood. Changes: runs."""
    run = opened(session, run_id)
    series = run.current
    if series is None or run.procedure.one_pull_tells or not run.tool.kind.is_setting:
        raise ShopRefused(tr("No tries are wanted here now."))
    for number, one in enumerate(noted, start=1):
        now = run.current
        if now is None or now.id != series.id:
            rest = tr_count("1 more does", "{n} more do", len(noted) - number + 1)
            raise ShopRefused(
                tr(
                    "The point is found after {number} of them; {rest} not belong to it. Nothing was kept: leave those out, "
                    "or give them at the next point.",
                    number=number - 1,
                    rest=rest,
                )
            )
        try:
            seen = seen_at(run, now, one)
        except InputRefused as refusal:
            raise InputRefused(f"“{one.at}”", one.at, refusal.reason) from None
        run = observe(session, run_id, seen, act, run)
    return run
