"""Start: what Reckoner proposes for the tool, each part to be changed, and what the register lacks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.entry import read
from reckoner.core.errors import InputRefused, Refused
from reckoner.core.kinds import MeterMode
from reckoner.core.printing import number, percent
from reckoner.core.rules import Rule
from reckoner.core.units import Kind, Unit
from reckoner.shop import equipment
from reckoner.shop.planning import EFFECTS, Plan, Proposal, propose, warnings
from reckoner.shop.run import RunKind
from reckoner.shop.wording import DIRECTIONS
from reckoner.ui.bench.panel import Desk, Panel, Primary
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, quantity_reader, words_reader
from reckoner.ui.widgets.text import label

RULE_WORDS = {
    Rule.EVERY_READING: "every reading",
    Rule.MEAN: "the mean",
    Rule.GUARDED: "the mean, guarded",
    Rule.PROBABILITY: "probability",
}

EFFECT_WORDS = {
    "reproducibility": "Remounting",
    "output_drive": "Drive positions",
    "interface": "Adapter positions",
    "loading_point": "Hand ±10 mm",
}


class StartPanel(Panel):
    """Nothing is kept until Enter; what a person changes against the rule set wants a reason."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._proposal: Proposal | None = None
        self._tool_id = 0
        self._title = label(self.theme, "", Type.HEADLINE, wrap=True)
        self._why = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.kinds = Chips(self.theme, "Kind of run")
        self.rule_sets = Chips(self.theme, "Rule set")
        self.points = EntryField(self.theme, "Points, one after the other", self._read_points)
        self.directions = Chips(self.theme, "Directions", several=True)
        self.effects = Chips(self.theme, "What is measured", several=True)
        self.readings = EntryField(self.theme, "Readings at each point", _read_count)
        self.modes = Chips(self.theme, "The meter catches")
        self.rules = Chips(self.theme, "It is decided by")
        self.adapter = EntryField(self.theme, "On the meter by", words_reader)
        self._warnings = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self.reason = EntryField(self.theme, "Why it is done otherwise", words_reader)
        self._lacking = column(gap=1)
        self._lacking_title = label(self.theme, "The register lacks", Type.LEAD)
        self._fields: dict[str, EntryField] = {}
        self._build()
        self.kinds.chosen.connect(self._propose_again)
        self.rule_sets.chosen.connect(self._propose_again)
        for chips in (self.directions, self.modes, self.rules, self.effects):
            chips.chosen.connect(self._warn)
        self.points.line.textChanged.connect(lambda _t: self._warn())
        self.readings.line.textChanged.connect(lambda _t: self._warn())
        for field in (self.points, self.readings, self.adapter, self.reason):
            field.given.connect(lambda _v: self.primary())

    def _build(self) -> None:
        grid = self._grid = QGridLayout()
        grid.setHorizontalSpacing(2 * GRID)
        grid.setVerticalSpacing(GRID)
        grid.setColumnStretch(1, 1)
        together = QWidget()
        together.setLayout(row(self.points, self.readings, gap=2))
        self._rows: tuple[tuple[str, QWidget], ...] = (
            ("By", self.rule_sets),
            ("Measures", self.effects),
            ("At", together),
            ("Turning", self.directions),
            ("Meter", self.modes),
            ("Rule", self.rules),
            ("Fitting", self.adapter),
        )
        self._heads = []
        for i, (words, what) in enumerate(self._rows):
            head = label(self.theme, words, Type.STRONG, "quiet")
            self._heads.append(head)
            lines = isinstance(what, Chips)  # the head stands beside their first line
            head.setContentsMargins(0, GRID - 2 if lines else 0, 0, 0)
            grid.addWidget(head, i, 0, Qt.AlignmentFlag.AlignTop if lines else Qt.AlignmentFlag.AlignVCenter)
            grid.addWidget(what, i, 1)
        self.readings.setMaximumWidth(22 * GRID)
        top = surface(column(self._title, self._why, self.kinds, gap=2, margin=3))
        lacking = QWidget()
        lacking.setLayout(column(self._lacking_title, self._lacking, gap=1))
        self._lacking_box = lacking
        body = QWidget()
        body.setLayout(column(lacking, grid, self._warnings, self.reason, 1, gap=2, margin=3))
        layout = column(top, surface(column(scrolling(body))), gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    # What is proposed

    def propose(self, tool_id: int, kind: RunKind | None = None, rule_set: str | None = None) -> None:
        """Ask for the proposal and show it."""
        self._tool_id = tool_id
        today = self.desk.around.today
        self.desk.around.work.ask(
            lambda session: propose(session, tool_id, today, kind, rule_set), self._show, self._cannot
        )

    def _cannot(self, refusal: Refused) -> None:
        self._proposal = None
        self.desk.fault(str(refusal))
        self.desk.update_primary()

    def _propose_again(self) -> None:
        kind = RunKind(self.kinds.one)
        same_kind = self._proposal is not None and self._proposal.plan.kind is kind
        self.propose(self._tool_id, kind, self.rule_sets.one if same_kind else None)

    def _show(self, found: Proposal) -> None:
        self._proposal = found
        self.desk.fault("")
        tool, plan, unit = found.tool, found.plan, found.tool.unit
        self._title.setText(f"{tool.number} comes to the bench")
        limit = f"±{percent(found.rules.limit(tool.kind), 1)}"
        self._why.setText(
            f"{found.reason} {found.rules.title}, {limit}; {found.rules.exercise} releases for exercise first."
        )
        self.kinds.offer([(k.value, k.words) for k in RunKind], [plan.kind.value])
        self.rule_sets.offer(found.rule_sets, [plan.rule_set])
        self.points.line.setText(", ".join(number(unit.from_si(p)) for p in plan.points) + f" {unit.symbol}")
        self.directions.offer([(d, DIRECTIONS[d]) for d in tool.directions], plan.directions)
        self.effects.offer(
            [(e, EFFECT_WORDS[e]) for e in EFFECTS if e in plan.effects or not plan.effects], plan.effects
        )
        self.readings.line.setText(str(plan.readings))
        self.modes.offer([(m.value, m.value) for m in MeterMode], [tool.implies.mode.value])
        self.rules.offer([(r.value, RULE_WORDS[r]) for r in Rule], [found.rules.decision.rule.value])
        self.adapter.line.setText(f"{tool.drive}, straight on the meter" if tool.drive else "")
        self.reason.clear()
        self._show_row("Measures", plan.kind is RunKind.CHARACTERISE)
        self._show_row("Turning", len(tool.directions) > 1)
        self._show_row("Rule", plan.kind is not RunKind.CHARACTERISE)
        self._show_lacking(found)
        self._warn()
        self.setFocus()
        self.desk.update_primary()

    def _show_row(self, name: str, shown: bool) -> None:
        index = next(i for i, (words, _) in enumerate(self._rows) if words == name)
        self._heads[index].setVisible(shown)
        self._rows[index][1].setVisible(shown)

    def _show_lacking(self, found: Proposal) -> None:
        empty(self._lacking)
        self._fields = {}
        self._lacking_box.setVisible(bool(found.lacking))
        for lack in found.lacking:
            field = EntryField(self.theme, f"{lack.name}: {lack.why}", _reader_of(lack.field, found.tool.unit))
            field.given.connect(partial(self._give, lack.field))
            self._fields[lack.field] = field
            self._lacking.addWidget(field)

    def _give(self, name: str, value: object) -> None:
        tool_id = self._tool_id
        act = self.desk.around.act()
        self.desk.around.work.ask(
            lambda session: equipment.complete(session, tool_id, name, value, act),
            lambda _done: self.propose(tool_id),
            lambda refusal: self._fields[name].refuse(str(refusal)),
            changes="register",
        )

    # What was changed

    def _read_points(self, text: str) -> tuple[object, str]:
        unit = self._proposal.tool.unit if self._proposal else None
        if unit is None:
            return (), " "
        points = read_points(text, unit)
        return points, "understood: " + ", ".join(f"{number(unit.from_si(p))}" for p in points) + f" {unit.symbol}"

    def plan(self) -> Plan:
        """The plan as it stands. Raises InputRefused for what cannot be understood."""
        found = self._proposal
        if found is None:
            raise InputRefused("plan", None, "nothing is proposed yet")
        chosen = found.plan
        mode = self.modes.one if self.modes.one != found.tool.implies.mode.value else ""
        rule = self.rules.one if self.rules.one != found.rules.decision.rule.value else ""
        points = self.points.value()
        return replace(
            chosen,
            points=points if isinstance(points, tuple) else (),
            directions=self.directions.on,
            readings=int(str(self.readings.value())),
            mode=mode,
            rule=rule,
            adapter=self.adapter.text.strip(),
            note=self.reason.text.strip(),
            effects=self.effects.on if chosen.kind is RunKind.CHARACTERISE else (),
        )

    def _warn(self) -> None:
        said: tuple[str, ...] = ()
        if self._proposal is not None:
            try:
                said = warnings(self._proposal, self.plan())
            except InputRefused:
                said = ()
        self._warnings.setText("\n".join(said))
        self._warnings.setVisible(bool(said))
        self.reason.setVisible(bool(said))

    def primary_state(self) -> Primary | None:
        if self._proposal is None:
            return None
        return Primary("Put it on the bench")

    def primary(self) -> None:
        if self._proposal is None:
            return
        for field in (self.points, self.readings):
            try:
                field.value()
            except InputRefused as refusal:
                field.refuse(refusal.reason)
                field.setFocus()
                return
        plan = self.plan()
        if self.reason.isVisible() and not plan.note:
            self.reason.refuse("Give the reason, or go back to what is proposed.")
            self.reason.setFocus()
            return
        self.desk.begin(self._tool_id, plan)


def read_points(text: str, unit: Unit) -> tuple[float, ...]:
    """Torques in N·m from text such as "40, 120, 200 N·m"; a point without a unit is in ``unit``. Raises InputRefused.

    A comma before a space, a semicolon or a slash divides; a comma within a number is its decimal mark.
    """
    parts = [p.strip() for p in text.replace(";", ", ").replace("/", ", ").split(", ") if p.strip()]
    if not parts:
        raise InputRefused("points", text, "is empty; name the points, such as 40, 120, 200")
    return tuple(sorted(read(p.rstrip(","), Kind.TORQUE, default=unit, field="points").si for p in parts))


def _read_count(text: str) -> tuple[object, str]:
    if not text.strip().isdigit() or not 2 <= int(text) <= 50:
        raise InputRefused("readings", text, "must be a whole number from 2 to 50")
    return int(text), " "


def _reader_of(field: str, unit: Unit) -> Callable[[str], tuple[object, str]]:
    if field == "resolution":
        return quantity_reader(Kind.TORQUE, unit)
    if field == "lever_length":
        return quantity_reader(Kind.LENGTH, None)
    return words_reader
