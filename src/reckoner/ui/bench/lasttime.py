"""Before the first reading, where the fences will stand: how the tool was last time, and what happened since."""

from __future__ import annotations

from datetime import date

from PyQt6.QtWidgets import QWidget

from reckoner.core.days import day_words
from reckoner.core.printing import percent, quantity
from reckoner.core.translation import tr
from reckoner.core.units import Unit
from reckoner.shop.register.histories import PointHistory, RunHistory
from reckoner.shop.register.sheet import Happening, ToolSheet, since
from reckoner.shop.runs.kinds import POLICIES
from reckoner.ui.layout import column
from reckoner.ui.register.story import story_of
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.text import label
from reckoner.ui.widgets.timefence import TimeFence, TimeFenceState

MOST_SINCE = 3
"""Happenings that are named; the sheet has all of them."""


class LastTime(QWidget):
    """Shows nothing that is judged now: only what was signed, and what was reported."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.title = label(theme, tr("Last time"), Type.LEAD)
        self.who = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.sentence = label(theme, "", Type.STRONG, wrap=True)
        self.note = label(theme, "", Type.BODY, wrap=True)
        self._worst = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.fence = TimeFence(theme)
        self.since = label(theme, "", Type.BODY, wrap=True)
        stack = column(self.title, self.who, self.sentence, self.note, self._worst, self.fence, self.since, 1, gap=1)
        stack.setStretch(5, 3)
        self.setLayout(stack)

    def show_sheet(self, found: ToolSheet, today: date) -> bool:
        """Returns whether there is anything to show: a tool that was never judged has no last time."""
        if not found.runs:
            return False
        run, unit = found.runs[-1], found.card.tool.unit
        with_what = tr(", with {reference}", reference=run.reference) if run.reference else ""
        self.who.setText(f"{POLICIES[run.kind].words}, {day_words(run.on)}, {run.by}{with_what}")
        self.sentence.setText(f"{run.sentence}.")
        self.note.setText(tr("Noted then: {note}", note=run.note) if run.note else "")
        self.note.setVisible(bool(run.note))
        self._show_fence(found, run, unit, today)
        lines = [_happened(h) for h in since(found)]
        more = len(lines) - MOST_SINCE
        lines = lines[:MOST_SINCE] + ([tr("and {more} more, on its sheet", more=more)] if more > 0 else [])
        self.since.setText(tr("Since then: ") + "; ".join(lines) + "." if lines else tr("Nothing was reported since."))
        return True

    def _show_fence(self, found: ToolSheet, run: RunHistory, unit: Unit, today: date) -> None:
        """The point that came nearest to its limit, through time."""
        worst = max(run.points, key=_share)
        self._worst.setText(
            tr(
                "Nearest to its post: {target}, mean deviation {deviation}",
                target=quantity(worst.target, unit),
                deviation=percent(worst.deviation, 1, sign=True),
            )
        )
        points = story_of(found, (worst.direction, worst.target))
        self.fence.show_state(TimeFenceState(worst.limit, worst.near_zone, points, today, None))


def _share(point: PointHistory) -> float:
    return abs(point.worst) / point.limit


def _happened(happening: Happening) -> str:
    what = happening.what[:1].lower() + happening.what[1:]
    detail = f" ({happening.detail})" if happening.detail else ""
    return tr("{what} on {on}{detail}", what=what, on=day_words(happening.on), detail=detail)
