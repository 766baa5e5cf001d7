"""Start: what Reckoner proposes for the tool, each part to be changed, and what the register lacks."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from functools import partial
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.budget import Effect
from reckoner.core.entry import read
from reckoner.core.errors import InputRefused, Refused
from reckoner.core.kinds import Direction, MeterMode
from reckoner.core.printing import number
from reckoner.core.rules import Rule
from reckoner.core.translation import tr
from reckoner.core.units import MILLIMETRE, Kind, Unit
from reckoner.shop.limits import limits_words
from reckoner.shop.register import completing
from reckoner.shop.register.completing import ModelFact
from reckoner.shop.register.editing import Command
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.planning import Proposal, RunPlan, propose, warnings
from reckoner.shop.toolfacts import ToolFacts
from reckoner.shop.wording import EFFECT_WORDS, RULE_CHOICES
from reckoner.store.terms import RunKind
from reckoner.ui.bench.panel import Action, Desk, Panel
from reckoner.ui.bench.startsides import SidesEntry
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader, quantity_reader, understood, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

MAIN, SECOND = "main", "second"
"""Its scales."""

SAME_HEAD = 1e-5
"""Heads are the same within this many metres."""

CAME_WORDS = {0: tr("no"), 1: tr("one pull"), 2: tr("two pulls"), 3: tr("three pulls")}
"""How often it is pulled before any exercise."""


class StartPanel(Panel):
    """Nothing is kept until Enter; what a person changes against the rule set wants a reason."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._proposal: Proposal | None = None
        self._tool_id = 0
        self.title = label(self.theme, "", Type.HEADLINE, wrap=True)
        self.why = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.kinds = Chips(self.theme, tr("Kind of run"))
        self.rule_sets = Chips(self.theme, tr("Rule set"))
        self.points = EntryField(self.theme, tr("Points, one after the other"), self._read_points)
        self.directions = Chips(self.theme, tr("Directions"), several=True)
        self.effects = Chips(self.theme, tr("What is measured"), several=True)
        self.sides = SidesEntry(self.theme)
        self.readings = EntryField(self.theme, tr("Readings at each point"), _read_count)
        self.modes = Chips(self.theme, tr("The meter catches"))
        self.rules = Chips(self.theme, tr("It is decided by"))
        self.came = Chips(self.theme, tr("Pulls as it came, before any exercise"))
        self.scales = Chips(self.theme, tr("Set by its scale in"))
        self.head = EntryField(
            self.theme, tr("Head on it, drive centre to seat"), quantity_reader(Kind.LENGTH, MILLIMETRE)
        )
        self.adapter = EntryField(self.theme, tr("On the meter by"), words_reader)
        self.warnings_label = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self.reason = EntryField(self.theme, tr("Why it is done otherwise"), words_reader)
        self._lacking = column(gap=1)
        self._lacking_title = label(self.theme, tr("The register lacks"), Type.LEAD)
        self._fields: dict[ModelFact, EntryField[Any]] = {}
        self._lacking_of = 0
        self._given: set[ModelFact] = set()
        self._begins = False
        self._build()
        self.kinds.chosen.connect(self._propose_again)
        self.rule_sets.chosen.connect(self._propose_again)
        self.scales.chosen.connect(self._propose_again)
        for chips in (self.directions, self.modes, self.rules, self.effects):
            chips.chosen.connect(self._warn)
        self.points.line.textChanged.connect(lambda _t: self._warn())
        self.readings.line.textChanged.connect(lambda _t: self._warn())
        self.sides.given.connect(self._put)
        for field in (self.points, self.readings, self.adapter, self.reason, self.head):
            field.given.connect(lambda _v: self._put())

    def _build(self) -> None:
        grid = self._grid = QGridLayout()
        grid.setHorizontalSpacing(2 * GRID)
        grid.setVerticalSpacing(GRID)
        grid.setColumnStretch(1, 1)
        together = QWidget()
        together.setLayout(row(self.points, self.readings, gap=2))
        self._rows: tuple[tuple[str, QWidget], ...] = (
            (tr("By"), self.rule_sets),
            (tr("Measures"), self.effects),
            (tr("Compares"), self.sides),
            (tr("As it came"), self.came),
            (tr("Scale"), self.scales),
            (tr("At"), together),
            (tr("Turning"), self.directions),
            (tr("Meter"), self.modes),
            (tr("Rule"), self.rules),
            (tr("Head"), self.head),
            (tr("Fitting"), self.adapter),
        )
        self._heads = []
        for i, (words, what) in enumerate(self._rows):
            head = label(self.theme, words, Type.STRONG, "quiet")
            self._heads.append(head)
            lines = isinstance(what, Chips | SidesEntry)  # the head stands beside their first line
            head.setContentsMargins(0, GRID - 2 if lines else 0, 0, 0)
            grid.addWidget(head, i, 0, Qt.AlignmentFlag.AlignTop if lines else Qt.AlignmentFlag.AlignVCenter)
            grid.addWidget(what, i, 1)
        self.readings.setMaximumWidth(22 * GRID)
        top = surface(column(self.title, self.why, self.kinds, gap=2, margin=3))
        lacking = QWidget()
        lacking.setLayout(column(self._lacking_title, self._lacking, gap=1))
        self._lacking_box = lacking
        body = QWidget()
        body.setLayout(column(lacking, grid, self.warnings_label, self.reason, 1, gap=2, margin=3))
        layout = column(top, surface(column(scrolling(body))), gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    # What is proposed

    def propose(
        self,
        tool_id: int,
        kind: RunKind | None = None,
        rule_set: str | None = None,
        *,
        second_scale: bool = False,
        at: float | None = None,
    ) -> None:
        """Ask for the proposal and show it; ``at`` a torque (N·m) where one is asked for."""
        if tool_id != self._tool_id:
            self._proposal = None  # what stood here is of another tool
        self._tool_id = tool_id
        today = self.desk.around.today
        self.desk.around.work.browse(
            call(propose, tool_id, today, kind, rule_set, second_scale=second_scale, at=at),
            self._show,
            self._cannot,
        )

    def _cannot(self, refusal: Refused) -> None:
        self._proposal = None
        self.desk.fault(str(refusal))
        self.desk.offer()

    def _propose_again(self) -> None:
        kind = RunKind(self.kinds.one)
        same_kind = self._proposal is not None and self._proposal.plan.kind is kind
        second = self.scales.one == SECOND
        self.propose(self._tool_id, kind, self.rule_sets.one if same_kind else None, second_scale=second)

    def _show(self, found: Proposal) -> None:
        self._proposal = None  # while the fields are filled they say nothing of a plan
        self.desk.fault("")
        tool, plan, unit = found.tool, found.plan, found.tool.unit
        policy = POLICIES[plan.kind]
        self.title.setText(tr("{number} comes to the bench", number=tool.number))
        limit = limits_words([(p, found.rules.limit(tool.kind, p)) for p in plan.points], unit)
        self.why.setText(
            tr(
                "{reason} {title}, {limit}; {exercise} releases for exercise first.",
                reason=found.reason,
                title=found.rules.title,
                limit=limit,
                exercise=found.rules.exercise,
            )
        )
        self.kinds.offer([(k.value, policy.words) for k, policy in POLICIES.items()], [plan.kind.value])
        self.rule_sets.offer(found.rule_sets, [plan.rule_set])
        self.points.line.setText(", ".join(number(unit.from_si(p)) for p in plan.points) + f" {unit.symbol}")
        self.directions.offer([(d.value, d.words) for d in tool.directions], plan.directions)
        self.effects.offer(
            [(e.value, words) for e, words in EFFECT_WORDS.items() if e in plan.effects or not plan.effects],
            plan.effects,
        )
        self.readings.line.setText(str(plan.readings))
        self.came.offer([(str(n), words) for n, words in CAME_WORDS.items()], [str(plan.came)])
        self.modes.offer([(m.value, tr(m)) for m in MeterMode], [tool.implies.mode.value])
        self.rules.offer([(r.value, words) for r, words in RULE_CHOICES.items()], [found.rules.decision.rule.value])
        self.adapter.line.setText(tr("{drive}, nothing between", drive=tool.drive) if tool.drive else "")
        self.reason.clear()
        if plan.sides is not None:
            self.sides.offer(tool, plan.sides)
        self._show_fit(tool, plan)
        self._show_row(self.effects, policy.measures)
        self._show_row(self.sides, policy.contrasts)
        self._show_row(self.came, policy.judges)
        self._show_row(self.directions, len(tool.directions) > 1)
        self._show_row(self.rules, policy.judges)
        self._show_lacking(found)
        self._proposal = found
        self.points.read_with(self._read_points)
        self._warn()
        self.setFocus()
        self.desk.offer()

    def _show_fit(self, tool: ToolFacts, plan: RunPlan) -> None:
        """By which scale it is set, and which head is on it, where there is more than one."""
        other = tool.second
        both = other is not None and other.resolution is not None
        if other is not None and both:
            main, second = (other.unit, tool.unit) if plan.second_scale else (tool.unit, other.unit)
            self.scales.offer([(MAIN, main.symbol), (SECOND, second.symbol)], [SECOND if plan.second_scale else MAIN])
        else:
            self.scales.offer([], [])
        self._show_row(self.scales, both)
        self.head.line.setText(
            tr("{made_for_head} mm", made_for_head=number(tool.made_for_head * 1000)) if tool.made_for_head else ""
        )
        self._show_row(self.head, tool.made_for_head is not None and tool.lever is not None)

    def _show_row(self, what: QWidget, shown: bool) -> None:
        index = next(i for i, (_, widget) in enumerate(self._rows) if widget is what)
        self._heads[index].setVisible(shown)
        self._rows[index][1].setVisible(shown)

    def _show_lacking(self, found: Proposal) -> None:
        """Ask for what the register lacks; a field that is asked for already stays as it is."""
        wanted = {lack.fact: lack for lack in found.lacking} if found.tool.id == self._lacking_of else {}
        for fact in [fact for fact in self._fields if fact not in wanted]:
            field = self._fields.pop(fact)
            if field.line.hasFocus():
                next(iter(self._fields.values()), self).setFocus()
            field.hide()
            field.deleteLater()
        self._lacking_of = found.tool.id
        for lack in found.lacking:
            if lack.fact not in self._fields:
                field = EntryField(self.theme, f"{lack.name}: {lack.why}", _reader_of(lack.fact, found.tool.unit))
                field.line.editingFinished.connect(partial(self._left, lack.fact))
                self._fields[lack.fact] = field
                self._lacking.addWidget(field)
        self._lacking_box.setVisible(bool(found.lacking))

    def _left(self, fact: ModelFact) -> None:
        """A field was left, or Enter pressed in it: what was understood is kept."""
        field = self._fields.get(fact)
        if field is None or not field.text.strip():
            return
        with suppress(InputRefused):  # the field says so
            field.value()
            self._give(fact)

    def _give(self, fact: ModelFact, *, begin: bool = False) -> None:
        """Keep a fact in the register, and look at the proposal again, what was changed of it stays; then ``begin`` the
        run."""
        self._begins = begin
        if fact in self._given:
            return
        self._given.add(fact)
        tool_id, act, today = self._tool_id, self.desk.around.act(), self.desk.around.today
        chosen = self._proposal.plan if self._proposal is not None else None

        def kept(deed: Command) -> None:
            self.desk.around.undo_stack.did(deed)
            kind, rule_set = (chosen.kind, chosen.rule_set) if chosen is not None else (None, None)
            second = chosen is not None and chosen.second_scale
            self.desk.around.work.browse(
                call(propose, tool_id, today, kind, rule_set, second_scale=second), known, self._cannot
            )

        def known(found: Proposal) -> None:
            if found.tool.id == self._tool_id and self._proposal is not None:
                self._proposal = replace(found, plan=self._proposal.plan)
                self._show_lacking(found)
                self._warn()
                if self._begins:
                    self._put()

        def refused(refusal: Refused) -> None:
            self._begins = False
            if fact in self._fields:
                self._fields[fact].refuse(str(refusal))
                self._fields[fact].setFocus()

        value = self._fields[fact].value()
        self.desk.around.work.ask(
            call(completing.complete, tool_id, fact, value, act), kept, refused, ended=lambda: self._given.discard(fact)
        )

    # What was changed

    def _read_points(self, text: str) -> tuple[tuple[float, ...], str]:
        unit = self._proposal.tool.unit if self._proposal else None
        if unit is None:
            return (), " "
        points = read_points(text, unit)
        words = ", ".join(number(unit.from_si(p)) for p in points)
        return points, tr("understood: {words} {symbol}", words=words, symbol=unit.symbol)

    def plan(self) -> RunPlan:
        """The plan as it stands. Raises InputRefused for what cannot be understood."""
        found = self._proposal
        if found is None:
            raise InputRefused("plan", None, tr("nothing is proposed yet"))
        chosen = found.plan
        mode, rule = MeterMode(self.modes.one), Rule(self.rules.one)
        return replace(
            chosen,
            points=self.points.value(),
            directions=tuple(Direction(d) for d in self.directions.on),
            readings=self.readings.value(),
            mode=mode if mode is not found.tool.implies.mode else None,
            rule=rule if rule is not found.rules.decision.rule else None,
            adapter=self.adapter.text.strip(),
            note=self.reason.text.strip(),
            effects=tuple(Effect(e) for e in self.effects.on) if POLICIES[chosen.kind].measures else (),
            head=self._head(),
            sides=self.sides.plan() if POLICIES[chosen.kind].contrasts else None,
            came=int(self.came.one) if POLICIES[chosen.kind].judges else 0,
        )

    def _head(self) -> float | None:
        """The head that is on it where it is another than it was made for, in m."""
        made_for = self._proposal.tool.made_for_head if self._proposal is not None else None
        if made_for is None or self.head.isHidden() or not self.head.text.strip():
            return None
        head = self.head.value()
        return None if abs(head - made_for) < SAME_HEAD else head

    def _warn(self) -> None:
        said: tuple[str, ...] = ()
        if self._proposal is not None:
            try:
                said = warnings(self._proposal, self.plan())
            except InputRefused:
                said = ()
        self.warnings_label.setText("\n".join(said))
        self.warnings_label.setVisible(bool(said))
        self.reason.setVisible(bool(said))

    def action(self) -> Action | None:
        return Action(tr("Put it on the bench"), self._put) if self._proposal is not None else None

    def _put(self) -> None:
        """Begin the run as it is planned."""
        if self._proposal is None or not understood(self.points, self.readings):
            return
        typed = next((fact for fact, field in self._fields.items() if field.text.strip()), None)
        if typed is not None:  # kept first, each in its turn
            if understood(self._fields[typed]):
                self._give(typed, begin=True)
            return
        try:
            plan = self.plan()
        except InputRefused as refusal:  # the field that it stands in says so too
            self.desk.fault(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")
            return
        if self.reason.isVisible() and not plan.note:
            self.reason.refuse(tr("Give the reason, or go back to what is proposed."))
            self.reason.setFocus()
            return
        self.desk.begin(self._tool_id, plan)


def read_points(text: str, unit: Unit) -> tuple[float, ...]:
    """Torques in N·m from text such as "40, 120, 200 N·m"; a point without a unit is in ``unit``. Raises InputRefused.

    A comma before a space, a semicolon or a slash divides; a comma within a number is its decimal mark.
    """
    parts = [p.strip() for p in text.replace(";", ", ").replace("/", ", ").split(", ") if p.strip()]
    if not parts:
        raise InputRefused("points", text, tr("is empty; name the points, such as 40, 120, 200"))
    return tuple(sorted(read(p.rstrip(","), Kind.TORQUE, default=unit, field="points").si for p in parts))


def _read_count(text: str) -> tuple[int, str]:
    if not text.strip().isdecimal() or not 2 <= int(text) <= 50:
        raise InputRefused("readings", text, tr("must be a whole number from 2 to 50"))
    return int(text), " "


def _reader_of(fact: ModelFact, torque: Unit) -> TextReader[Any]:
    """As its field reads it; but a bare length is nothing, for whoever counts in inches would not see the millimetres."""
    if fact is ModelFact.LEVER_LENGTH:
        return quantity_reader(Kind.LENGTH, None)
    return partial(completing.field_for(fact).read, torque=torque)
