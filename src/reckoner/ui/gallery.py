"""Every shared widget in every state, in one window: for looking at, and one of the screenshots."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.decision.states import State
from reckoner.core.history.crosschecks import control_chart
from reckoner.core.history.due import Due, DueReason
from reckoner.core.quantities.ownunits import METRIC
from reckoner.core.quantities.units import N_M
from reckoner.core.reference.certificate import CertificatePoint, adequate_spans
from reckoner.core.requirements.tooltypes import Approach, Direction, Mechanism, ToolKind, ToolType
from reckoner.shop.events.standing import Loan, Standing
from reckoner.shop.facts.shapes import Shape
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.planning.workload import Week, Workload
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.fields import FIELDS
from reckoner.store.terms import RegisterKind
from reckoner.ui.bench.adjusting.screw import ScrewHead
from reckoner.ui.drawings.control import ControlChart
from reckoner.ui.drawings.fence import Fence, FenceState
from reckoner.ui.drawings.pictures import ShapePicture
from reckoner.ui.drawings.timefence import SmallFence, TimeFence, TimeFenceState, TimePoint
from reckoner.ui.drawings.weeks import Weeks
from reckoner.ui.drawings.worth import Worth, WorthState
from reckoner.ui.layout import column, row, surface
from reckoner.ui.register.fieldrow import FieldRow
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.choice import ChoiceRow
from reckoner.ui.widgets.entry import EntryField, torque_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label

TODAY = date(2026, 11, 24)

FENCES = {
    "nothing yet": FenceState(0.04),
    "inside": FenceState(0.04, 0.009, (0.009, 0.011, 0.010, 0.012), (), 0.0105, 0.009),
    "inside, near the fence": FenceState(0.04, 0.009, (0.031, 0.034, 0.036), (0.045,), 0.0337, 0.009),
    "outside, near the fence": FenceState(0.04, 0.009, (-0.041, -0.044, -0.043), (), -0.0427, 0.009),
    "outside, beyond the drawing": FenceState(0.04, 0.009, (0.07, 0.072, 0.05), (), 0.064, 0.009),
}


def example_card(state: State | None, *, held: str = "", loan: Loan | None = None, due: date | None = None) -> ToolCard:
    """A tag's card that comes from no register."""
    kind = ToolKind(ToolType.SETTING, "A", 200.0, 40.0, 1.0)
    tool = ToolFacts(
        0, "HC-0417", "D20000417", "Dunmorrow", "D-200", kind, Mechanism.CLICK, N_M, "½ in", (Direction.CW,),
        Approach.FROM_BELOW, "Upper Station", "iso-6789-2017", None,
    )  # fmt: skip
    known = Due(due, DueReason.CALENDAR) if due else None
    return ToolCard(tool, Standing(state=state, due=known, held=held, loan=loan))


def restricted_card() -> ToolCard:
    """The card of a tool that may be used in a part of its range only."""
    whole = example_card(State.INSIDE, due=date(2027, 6, 1))
    return replace(whole, standing=replace(whole.standing, restricted=(120.0, 200.0)))


class Gallery(QWidget):
    """The widgets, light or dark as the theme is."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.setWindowTitle("Reckoner · widgets")
        self.setProperty("class", "ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.resize(1280, 1800)
        left = column(*self._tags(), 1, gap=2)
        middle = column(*self._fences(), 1, gap=2)
        right = column(*self._controls(), 1, gap=2)
        self.setLayout(
            column(
                row(column(self._marks(), left, gap=2), surface(column(middle, margin=2)), right, gap=3),
                surface(column(self._through_time(), margin=2)),
                row(
                    surface(column(*self._fields(), 1, margin=2)),
                    surface(column(*self._of_references(), margin=2)),
                    gap=2,
                ),
                surface(column(self._work_of_the_year(), margin=2)),
                1,
                gap=2,
                margin=3,
            )
        )

    def _fields(self) -> list[QWidget]:
        """The register: fields read, missing and edited; kinds of tools; a point's story, small."""
        theme = self._theme
        fields = {f.name: f for f in FIELDS[RegisterKind.MODEL]}
        lever, pin, unit = (FieldRow(theme, fields[name]) for name in ("lever_length", "pivot_offset", "unit"))
        lever.show_value(0.42, METRIC)
        pin.show_value(0.0, METRIC)
        unit.show_value("N.m", METRIC)
        unit.edit()
        pictures = [ShapePicture(theme, shape) for shape in (Shape.CLICK_WRENCH, Shape.DIAL_WRENCH, Shape.SCREWDRIVER)]
        pictures[0].setChecked(True)
        small = [SmallFence(theme, words, _story(), 0.04) for words in ("40 N·m", "200 N·m")]
        small[0].setChecked(True)
        holder, fences = QWidget(), QWidget()
        holder.setLayout(row(*pictures, 1, gap=1))
        fences.setLayout(row(*small, 1, gap=1))
        return [lever, pin, unit, holder, fences]

    def _of_references(self) -> list[QWidget]:
        """What a meter is worth where, and its cross-checks."""
        worth, chart = Worth(self._theme), ControlChart(self._theme)
        points = (
            CertificatePoint(40, 0.0012, 0.006),
            CertificatePoint(120, 0.0008, 0.005),
            CertificatePoint(200, -0.001, 0.012),
        )
        spans = tuple((limit, adequate_spans(points, limit)) for limit in (0.04, 0.06))
        worth.show_state(WorthState(tuple((p.torque, p.error, p.expanded_uncertainty) for p in points), 200, 40, spans))
        chart.show_checks(control_chart([0.001, 0.0014, 0.0006, 0.001, 0.0011, 0.0018, 0.0004, 0.0035]))
        return [worth, chart]

    def _work_of_the_year(self) -> QWidget:
        """Weeks with few tools and with many."""
        weeks = Weeks(self._theme)
        counts = [2, 0, 1, 6, 3, 0, 2, 1, 9, 4] * 6
        begins = (date(2026, 11, 23) + timedelta(weeks=i) for i in range(53))
        weeks.show_work(Workload(0, tuple(Week(b, c) for b, c in zip(begins, counts, strict=False))))
        return weeks

    def _marks(self) -> QWidget:
        grid = QGridLayout()
        for i, state in enumerate([None, *State]):
            for j, size in enumerate((16, 24, 48)):
                grid.addWidget(FenceMark(self._theme, state, size), i, j)
            grid.addWidget(label(self._theme, state.words if state else "never tested", Type.BODY), i, 3)
        return surface(column(grid, margin=2))

    def _tags(self) -> list[QWidget]:
        return [
            Tag(self._theme, example_card(State.INSIDE, due=date(2026, 12, 6)), TODAY),
            Tag(self._theme, example_card(State.OUTSIDE, held="as found outside", due=TODAY), TODAY),
            Tag(self._theme, restricted_card(), TODAY),
            self._screw(),
        ]

    def _screw(self) -> QWidget:
        """The next turn of an adjusting screw that stands at −⅛."""
        screw = ScrewHead(self._theme)
        screw.show_turn(-0.125, 0.375)
        return screw

    def _fences(self) -> list[QWidget]:
        made: list[QWidget] = []
        for words, state in FENCES.items():
            made += [label(self._theme, words, Type.STRONG), Fence(self._theme, state)]
        return made

    def _controls(self) -> list[QWidget]:
        theme = self._theme
        good = EntryField(theme, "Understood", torque_reader(N_M))
        good.line.setText("88,5 lbf.ft")
        bad = EntryField(theme, "Not understood", torque_reader(N_M))
        bad.line.setText("1,234")
        off = PrimaryButton(theme, "Not now", "")
        off.setEnabled(False)
        chosen = ChoiceRow(theme, "PM-5", "20–200 N·m · ±0.60 % · certificate to 15 Jun 2027")
        chosen.setChecked(True)
        chips = Chips(theme, "Kind of run")
        chips.offer([("full", "Full run"), ("check", "Quick check"), ("event", "Check after an event")], ["full"])
        return [
            PrimaryButton(theme, "Put on the bench"),
            chips,
            off,
            button(theme, "Zero the meter"),
            button(theme, "Give this run up…", kind="link"),
            good,
            bad,
            chosen,
            ChoiceRow(theme, "PM-4", "", "its certificate ended on 9 Nov 2026"),
        ]

    def _through_time(self) -> QWidget:
        points = _story()
        fence = TimeFence(self._theme)
        line = tuple(
            (date(2023, 3, 6) + timedelta(days=90 * i), 0.003 + 0.0034 * i, 0.004 + 0.0004 * i) for i in range(20)
        )
        events = ((date(2025, 1, 10), "fell"),)
        fence.show_state(TimeFenceState(0.04, 0.009, points, TODAY, date(2027, 3, 9), line, date(2026, 9, 1), events))
        fence.setFixedHeight(26 * GRID)
        return fence


def _story() -> tuple[TimePoint, ...]:
    """A point that drifts to the fence and over it."""
    found = ((0.004, State.INSIDE), (0.017, State.INSIDE), (0.034, State.INSIDE_NEAR), (0.046, State.OUTSIDE_NEAR))
    return tuple(TimePoint(date(2023 + i, 3, 6), a, 0.009, s) for i, (a, s) in enumerate(found))
