"""What a run is planned to do, as it is proposed and as a person changes it.

What a comparison holds against each other: chosen and named before it begins.
"""

from __future__ import annotations

import math
from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.printing import fixed, number, quantity, span
from reckoner.core.quantities.units import Kind, Unit
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import Effect
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.runs.kinds import POLICIES, KindPolicy
from reckoner.shop.runs.planning import Proposal, RunPlan, warnings
from reckoner.shop.runs.sides import CONTRASTS, ContrastFacts, Side, SidesPlan
from reckoner.shop.setups.plan import BoxTorque, nearest_made
from reckoner.shop.words.effects import EFFECT_WORDS
from reckoner.shop.words.results import RULE_CHOICES
from reckoner.store.terms import Contrast
from reckoner.ui.drawings.boxline import BoxLine, BoxLineState
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import plain_reader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label

SQUARE = 180


class SidesForm(Form[SidesPlan]):
    """What is held against what, each side with its name and what tells it from the other."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._tool: ToolFacts | None = None
        self.contrasts = self.choice("contrast", tr("What is compared"))
        self.contrasts.chosen.connect(self._name_them)
        self.first, self.second = SideFields(self, tr("The first")), SideFields(self, tr("The other"))
        self.expected = label(theme, "", Type.BODY, "quiet", wrap=True)
        rows = [row(*side.fields, gap=2) for side in (self.first, self.second)]
        for line in rows:
            line.setStretch(0, 1)
        self.setLayout(column(self.contrasts, *rows, self.expected, gap=1))
        self.shown(lambda: self.facts.adapters[0], self.first.adapter, self.first.angle)
        self.shown(lambda: self.facts.adapters[1], self.second.adapter, self.second.angle)
        self.shown(lambda: self.facts.hands, self.first.hand, self.second.hand)

    @property
    def facts(self) -> ContrastFacts:
        """Of the comparison that is chosen."""
        return CONTRASTS[Contrast(self.contrasts.one) if self.contrasts.one else Contrast.ADAPTER]

    def offer(self, tool: ToolFacts, plan: SidesPlan) -> None:
        """Show what is proposed for a tool."""
        self._tool = tool
        choices = [(c.value, facts.words) for c, facts in CONTRASTS.items() if not _needs_a_lever(tool, c)]
        first = plan.contrast.value if not _needs_a_lever(tool, plan.contrast) else choices[0][0]
        self.contrasts.offer(choices, [first])
        self._name_them()

    def _name_them(self) -> None:
        plan = SidesPlan.of(Contrast(self.contrasts.one))
        with self.filling():
            self.first.name.line.setText(plan.first.name)
            self.second.name.line.setText(plan.second.name)

    def value(self) -> SidesPlan:
        one, two = self.facts.adapters
        hands = self.facts.hands
        first, second = self.first.side(adapter=one, hand=hands), self.second.side(adapter=two, hand=hands)
        return SidesPlan(Contrast(self.contrasts.one), first, second)

    def update_state(self) -> None:
        """How it goes, and what the ratio should be."""
        if not self.contrasts.one:
            return
        try:
            plan = self.value()
            computed = plan.expected(self._tool) if self._tool is not None else None
        except InputRefused as refusal:
            self.expected.setText(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")
            return
        order = tr(", then ").join(side.name or "…" for side in plan.places)
        again = tr(" once more, to see that nothing else has moved") if plan.facts.again else ""
        if computed is None:
            should = tr(" With its length, what it should be is computed.") if self._tool and self._tool.lever else ""
        elif computed == 1:
            should = tr(" The two should read alike.")
        else:
            should = tr(
                " By the lever, the other side should read {computed} times the first.", computed=fixed(computed, 4)
            )
        self.expected.setText(f"{order[:1].upper()}{order[1:]}{again}.{should}")


class SideFields:
    """The fields of one side, asked in a ``form``."""

    def __init__(self, form: SidesForm, which: str) -> None:
        self.name = form.field(f"{which} name", tr("{which} side", which=which), words_reader)
        self.adapter = form.length_or_mass(0.045, f"{which} adapter", tr("Adapter's length"))
        self.angle = form.field(f"{which} angle", tr("At angle, in °"), plain_reader(-SQUARE, SQUARE, "°"), "0")
        self.hand = form.length_or_mass(0.4, f"{which} hand", tr("Hand, from the drive"))
        self.angle.line.setFixedWidth(12 * GRID)
        for field in (self.adapter, self.hand):
            field.line.setFixedWidth(16 * GRID)
        self.fields = (self.name, self.adapter, self.angle, self.hand)

    def side(self, *, adapter: bool, hand: bool) -> Side:
        """Raises InputRefused for what is not understood."""
        angle = (self.angle.value_or_none() if adapter else None) or 0.0
        return Side(
            self.name.text.strip(),
            self.adapter.value_or_none() if adapter else None,
            math.radians(angle),
            self.hand.value_or_none() if hand else None,
        )


def _needs_a_lever(tool: ToolFacts, contrast: Contrast) -> bool:
    """What makes no sense on a screwdriver."""
    facts = CONTRASTS[contrast]
    return tool.kind.is_screwdriver and (facts.hands or any(facts.adapters))


MAIN, SECOND = "main", "second"
"""Its scales."""

SAME_HEAD = 1e-5
"""Heads are the same within this many metres."""

CAME_WORDS = {0: tr("no"), 1: tr("one pull"), 2: tr("two pulls"), 3: tr("three pulls")}
"""How often it is pulled before any exercise."""


class StartForm(Form[RunPlan]):
    """What is changed against the rule set wants a reason."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.proposal: Proposal | None = None
        self._said: tuple[str, ...] = ()
        self.rule_sets = self.choice("rule_set", tr("Rule set"))
        self.effects = self.choice("effects", tr("What is measured"), several=True)
        self.sides = SidesForm(theme)
        self.include(self.sides)
        self.came = self.choice("came", tr("Pulls as it came, before any exercise"))
        self.scales = self.choice("scale", tr("Set by its scale in"))
        self.points = self.field("points", tr("Points, one after the other"), self._read_points)
        self.readings = self.field("readings", tr("Readings at each point"), _read_count)
        self.box = BoxLine(theme)
        self.box.taken.connect(self._take_torque)
        self.hangs = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self._of_box = QWidget()
        self._of_box.setLayout(column(self.box, self.hangs, gap=1))
        self.directions = self.choice("directions", tr("Directions"), several=True)
        self.modes = self.choice("mode", tr("The meter catches"))
        self.rules = self.choice("rule", tr("It is decided by"))
        self.head = self.length_or_mass(None, "head", tr("Head on it, drive centre to seat"))
        self.adapter = self.field("adapter", tr("On the meter by"), words_reader)
        self.warnings_label = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.reason = self.field("reason", tr("Why it is done otherwise"), words_reader)
        self.readings.setMaximumWidth(22 * GRID)
        grid = QGridLayout()
        grid.setHorizontalSpacing(2 * GRID)
        grid.setVerticalSpacing(GRID)
        grid.setColumnStretch(1, 1)
        self._rows(grid)
        self.shown(lambda: bool(self._said), self.warnings_label, self.reason)
        layout = column(gap=2)
        layout.addLayout(grid)
        layout.addWidget(self.warnings_label)
        layout.addWidget(self.reason)
        self.setLayout(layout)

    def _rows(self, grid: QGridLayout) -> None:
        together, beside = QWidget(), row(self.points, self.readings, gap=2)
        for field in (self.points, self.readings):
            beside.setAlignment(field, Qt.AlignmentFlag.AlignTop)  # whatever is said below one of them
        together.setLayout(beside)
        rows = (
            (tr("By"), self.rule_sets, lambda: True),
            (tr("Measures"), self.effects, lambda: self.policy.measures),
            (tr("Compares"), self.sides, lambda: self.policy.contrasts),
            (tr("As it came"), self.came, lambda: self.policy.judges or self.policy.diary),
            (tr("Scale"), self.scales, lambda: bool(self.scales.chips)),
            (tr("At"), together, lambda: True),
            (tr("Weights"), self._of_box, self._has_box),
            (tr("Turning"), self.directions, lambda: len(self.directions.chips) > 1),
            (tr("Meter"), self.modes, lambda: True),
            (tr("Rule"), self.rules, lambda: self.policy.judges),
            (tr("Head"), self.head, self._has_head),
            (tr("Fitting"), self.adapter, lambda: True),
        )
        for i, (words, what, when) in enumerate(rows):
            head = label(self.theme, words, Type.STRONG, "quiet")
            lines = isinstance(what, Chips | SidesForm)  # the head stands beside their first line
            head.setContentsMargins(0, GRID - 2 if lines else 0, 0, 0)
            grid.addWidget(head, i, 0, Qt.AlignmentFlag.AlignTop if lines else Qt.AlignmentFlag.AlignVCenter)
            grid.addWidget(what, i, 1)
            self.shown(when, head, what)

    @property
    def policy(self) -> KindPolicy:
        """That of the kind of run which is proposed."""
        return POLICIES[self.proposal.plan.kind] if self.proposal is not None else next(iter(POLICIES.values()))

    def _has_box(self) -> bool:
        return self.proposal is not None and bool(self.proposal.box)

    def _take_torque(self, torque: float) -> None:
        """A torque that the weights make: in the place of the point that is nearest."""
        found = self.proposal
        if found is None:
            return
        tool = found.tool
        taken = tool.kind.nearest_setting(torque)
        try:
            points = list(self.points.value())
        except InputRefused:
            points = []
        if points:
            points.remove(min(points, key=lambda point: abs(point - torque)))
        shown = ", ".join(number(tool.unit.from_si(p)) for p in sorted({*points, taken}))
        self.points.line.setText(f"{shown} {tool.unit.symbol}")

    def _show_box(self) -> None:
        """What the weights make, the points among it, and what to hang for each; where one cannot be made the nearest."""
        found = self.proposal
        if found is None or not found.box:
            return
        tool = found.tool
        try:
            points = self.points.value()
        except InputRefused:
            points = ()
        self.box.show_state(BoxLineState(tool.kind.minimum or 0.0, tool.kind.maximum, tool.unit, found.box, points))
        lines = [box_words(tool, found.box, point) for point in points]
        self.hangs.setText("\n".join(filter(None, [*lines, working_range(tool, found.box, points)])))

    def _has_head(self) -> bool:
        tool = self.proposal.tool if self.proposal is not None else None
        return tool is not None and tool.made_for_head is not None and tool.lever is not None

    def show_proposal(self, found: Proposal) -> None:
        """Fill it as it is proposed."""
        tool, plan, unit = found.tool, found.plan, found.tool.unit
        with self.filling():
            self.proposal = found
            self.measure_in(tool.own_units)
            self.sides.measure_in(tool.own_units)
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
            self.reason.line.setText(plan.note)
            if plan.sides is not None:
                self.sides.offer(tool, plan.sides)
            self._offer_scales(found)
            made_for = tool.made_for_head
            self.head.line.setText(tr("{head} mm", head=number(made_for * 1000)) if made_for else "")
            self.points.read_with(self._read_points)

    def _offer_scales(self, found: Proposal) -> None:
        """By which scale it is set, where there is more than one."""
        tool, other = found.tool, found.tool.second
        if other is None or other.resolution is None:
            self.scales.offer([], [])
            return
        second = found.plan.second_scale
        scales = (other.unit, tool.unit) if second else (tool.unit, other.unit)
        words = [(MAIN, scales[0].symbol), (SECOND, scales[1].symbol)]
        self.scales.offer(words, [SECOND if second else MAIN])

    def update_state(self) -> None:
        try:
            self._said = warnings(self.proposal, self.planned()) if self.proposal is not None else ()
        except InputRefused:
            self._said = ()
        self.warnings_label.setText("\n".join(self._said))
        self._show_box()

    def planned(self) -> RunPlan:
        """The plan as it stands. Raises InputRefused for what is not understood."""
        found = self.proposal
        if found is None:
            raise InputRefused("plan", None, tr("nothing is proposed yet"))
        policy, mode, rule = self.policy, MeterMode(self.modes.one), Rule(self.rules.one)
        return replace(
            found.plan,
            points=self.points.value(),
            directions=tuple(Direction(d) for d in self.directions.on),
            readings=self.readings.value(),
            mode=mode if mode is not found.tool.implies.mode else None,
            rule=rule if rule is not found.rules.decision.rule else None,
            adapter=self.adapter.text.strip(),
            note=self.reason.text.strip(),
            effects=tuple(Effect(e) for e in self.effects.on) if policy.measures else (),
            head=self._head(found),
            sides=self.sides.value() if policy.contrasts else None,
            came=int(self.came.one) if policy.judges or policy.diary else 0,
        )

    @property
    def ready(self) -> bool:
        """Whether it can begin as it stands: nothing misleads, nothing is left out."""
        found = self.proposal
        return found is not None and not self._said and not found.plan.note

    def value(self) -> RunPlan:
        """The same, with the reason for what is otherwise."""
        plan = self.planned()
        if self._said and not plan.note:
            raise InputRefused("reason", "", tr("give the reason, or go back to what is proposed"))
        return plan

    def _head(self, found: Proposal) -> float | None:
        """The head that is on it where it is another than it was made for, in m."""
        made_for = found.tool.made_for_head
        if made_for is None or not self._has_head() or not self.head.text.strip():
            return None
        head = self.head.value()
        return None if abs(head - made_for) < SAME_HEAD else head

    def _read_points(self, text: str) -> tuple[tuple[float, ...], str]:
        unit = self.proposal.tool.unit if self.proposal else None
        if unit is None:
            return (), " "
        points = read_points(text, unit)
        words = ", ".join(number(unit.from_si(p)) for p in points)
        return points, tr("understood: {words} {symbol}", words=words, symbol=unit.symbol)


def box_words(tool: ToolFacts, box: tuple[BoxTorque, ...], point: float) -> str:
    """What to hang for a point, or what is the nearest that can be made."""
    found, shown = nearest_made(box, point), quantity(point, tool.unit)
    if found is None:
        return ""
    one, torque = found
    hang = tr("about {made} with {words}", made=quantity(torque, tool.unit, 1), words=one.hung(torque, tool.own_units))
    if one.makes(point):
        return tr("{shown}: {hang}", shown=shown, hang=hang)
    near = quantity(tool.kind.nearest_setting(torque), tool.unit)
    return tr("{shown} cannot be made; the nearest is {near}: {hang}", shown=shown, near=near, hang=hang)


def working_range(tool: ToolFacts, box: tuple[BoxTorque, ...], points: tuple[float, ...]) -> str:
    """What a result may then speak of, where not all of the tool's scale can be tested; empty where it can."""
    made = [point for point in points if any(one.makes(point) for one in box)]
    low, high = tool.kind.minimum or tool.kind.maximum, tool.kind.maximum
    if not made or (min(made) <= low * WHOLE[0] and max(made) >= high * WHOLE[1]):
        return ""
    return tr(
        "A result then speaks of {tested}, not of the whole {scale}.",
        tested=span(min(made), max(made), tool.unit),
        scale=span(low, high, tool.unit),
    )


WHOLE = (1.05, 0.95)
"""Of the ends of a scale: tested so near them it is tested whole."""


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
