"""What a turn of the adjusting screw would make of every point, in words."""

from __future__ import annotations

from reckoner.core.kinds import ErrorKind
from reckoner.core.printing import percent, quantity
from reckoner.core.translation import tr
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.wholescale import Foretold, ScrewKnowledge, WholeScaleAdvice
from reckoner.shop.wording import settable
from reckoner.ui.bench.screw import turn_words

CHANGES = {
    ErrorKind.OFFSET: tr("the same torque everywhere"),
    ErrorKind.GAIN: tr("the same part of each setting"),
}


def foretold_words(run: RunState, whole: WholeScaleAdvice, told: Foretold) -> str:
    """Each point after the turn, whether the screw can cure them all, and what that goes by."""
    unit, kind = run.tool.unit, run.tool.kind
    points = ", ".join(
        f"{settable(kind, series.target, unit)} {percent(point.then, 1, sign=True)}" for series, point in told.points
    )
    said = [
        tr(
            "{which}: {points}.",
            which=tr("As it is") if not told.turn else tr("After {turn_words}", turn_words=turn_words(told.turn)),
            points=points,
        )
    ]
    if not whole.curable:
        worst = settable(kind, whole.next.worst_target, unit)
        said.append(
            tr(
                "Even the best turn leaves {worst} outside: this screw cannot cure it. Hold it and send it away.",
                worst=worst,
            )
        )
    elif told.turn != whole.next.turn:
        said.append(tr("{turn_words} would leave the worst point less.", turn_words=turn_words(whole.next.turn)))
    how = CHANGES[whole.changes]
    match whole.known:
        case ScrewKnowledge.SAID:
            said.append(tr("A turn changes {how}, says its model.", how=how))
        case ScrewKnowledge.TAUGHT:
            said.append(tr("A turn changes {how}, as the last adjustment has shown.", how=how))
        case ScrewKnowledge.TAKEN:
            said.append(tr("A turn is taken to change {how}, as on most tools; its model does not say.", how=how))
    if whole.lock and whole.changes is ErrorKind.OFFSET:
        said.append(
            tr("Locking moved it by {lock} the last time, which is counted.", lock=quantity(whole.lock, unit, 2))
        )
    return " ".join(said)
