"""Stored values taken as the readings of a run: in their order, into its series in theirs, all of them or none."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.acts import Act, ShopRefused
from reckoner.shop.procedure import Seen
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.taking import is_current, observe, shown
from reckoner.store.terms import ObservationKind, Source


def take(
    session: Session, run: RunState, meter: Sequence[tuple[int, float]], tool: Sequence[tuple[int, float]], act: Act
) -> RunState:
    """Take what the meter has stored, and where each pull is two numbers what the tool has: (line in its file, N·m).

    What is over once all series are full is left. Raises ShopRefused with the line for a value that is refused; nothing of
    the file is kept then. So it is where the run is not as it was looked at.
    """
    if not is_current(session, run, run.id):  # a second press comes before the first is shown
        raise ShopRefused(tr("The run went on meanwhile. Look at what is there now, and take the rest then."))
    if run.paired and len(tool) != len(meter):
        raise ShopRefused(
            tr(
                "The meter's column has {count} values and the tool's {count_2}; each pull is one of both.",
                count=len(meter),
                count_2=len(tool),
            )
        )
    for i, (line, torque) in enumerate(meter):
        if run.current is None:
            break
        try:
            run = observe(session, run.id, Seen(ObservationKind.VALUE, torque, Source.STORED), act, run)
            if run.paired:
                run = observe(session, run.id, shown(tool[i][1], Source.STORED), act, run)
        except ShopRefused as refusal:
            raise ShopRefused(
                tr("Line {line}: {refusal} Nothing of the file was taken.", line=line, refusal=refusal)
            ) from None
    return run


def fills(run: RunState, count: int) -> tuple[tuple[float, int], ...]:
    """How ``count`` values would fill the run's series: (target in N·m, how many) of each that gets some."""
    told = []
    for series in (*run.came, *run.series):
        part = min(count, series.missing)
        if part:
            told.append((series.target, part))
        count -= part
    return tuple(told)
