"""What a comparison holds against each other: chosen and named before it begins."""

from __future__ import annotations

import math

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.printing import fixed
from reckoner.core.translation import tr
from reckoner.core.units import Kind
from reckoner.shop.runs.sides import CONTRASTS, Side, SidesPlan
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import Contrast
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, plain_reader, quantity_reader, words_reader
from reckoner.ui.widgets.text import label

SQUARE = 180


class SideFields:
    """The fields of one side; those that do not apply are hidden."""

    def __init__(self, theme: Theme, which: str) -> None:
        self.name = EntryField(theme, tr("{which} side", which=which), words_reader)
        self.adapter = EntryField(
            theme, tr("Adapter's length"), quantity_reader(Kind.LENGTH, None), tr("such as 45 mm")
        )
        self.angle = EntryField(theme, tr("At angle, in °"), plain_reader(-SQUARE, SQUARE, "°"), "0")
        self.hand = EntryField(
            theme, tr("Hand, from the drive"), quantity_reader(Kind.LENGTH, None), tr("such as 40 cm")
        )
        self.angle.line.setFixedWidth(12 * GRID)
        for field in (self.adapter, self.hand):
            field.line.setFixedWidth(16 * GRID)
        self.fields = (self.name, self.adapter, self.angle, self.hand)

    def offer(self, side: Side, *, adapter: bool, hand: bool) -> None:
        self.name.line.setText(side.name)
        for field in (self.adapter, self.angle):
            field.setVisible(adapter)
        self.hand.setVisible(hand)

    def side(self) -> Side:
        """Raises InputRefused for what is not understood."""
        values = [_value(field) for field in (self.adapter, self.angle, self.hand)]
        adapter, angle, hand = values
        return Side(self.name.text.strip(), adapter, math.radians(angle or 0.0), hand)


def _value(field: EntryField[float]) -> float | None:
    """What a field says; None for one that is empty or does not apply."""
    return None if field.isHidden() else field.value_or_none()


class SidesEntry(QWidget):
    """Signals ``changed()``, and ``given()`` for Enter in a field."""

    changed = pyqtSignal()
    given = pyqtSignal()

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._tool: ToolFacts | None = None
        self.contrasts = Chips(theme, tr("What is compared"))
        self.contrasts.chosen.connect(self._choose)
        self.first, self.second = SideFields(theme, tr("The first")), SideFields(theme, tr("The other"))
        self.expected = label(theme, "", Type.BODY, "quiet", wrap=True)
        rows = [row(*side.fields, gap=2) for side in (self.first, self.second)]
        for line in rows:
            line.setStretch(0, 1)
        self.setLayout(column(self.contrasts, *rows, self.expected, gap=1))
        for field in (*self.first.fields, *self.second.fields):
            field.line.textChanged.connect(lambda _text: self._say())
            field.given.connect(lambda _value: self.given.emit())

    def offer(self, tool: ToolFacts, plan: SidesPlan) -> None:
        """Show what is proposed for a tool."""
        self._tool = tool
        choices = [(c.value, facts.words) for c, facts in CONTRASTS.items() if not _needs_a_lever(tool, c)]
        self.contrasts.offer(
            choices, [plan.contrast.value if not _needs_a_lever(tool, plan.contrast) else choices[0][0]]
        )
        self._choose()

    def _choose(self) -> None:
        plan = SidesPlan.of(Contrast(self.contrasts.one))
        one, two = plan.facts.adapters
        self.first.offer(plan.first, adapter=one, hand=plan.facts.hands)
        self.second.offer(plan.second, adapter=two, hand=plan.facts.hands)
        self._say()

    def plan(self) -> SidesPlan:
        """Raises InputRefused for what is not understood."""
        return SidesPlan(Contrast(self.contrasts.one), self.first.side(), self.second.side())

    def _say(self) -> None:
        """How it goes, and what the ratio should be."""
        try:
            plan = self.plan()
            computed = plan.expected(self._tool) if self._tool is not None else None
        except InputRefused as refusal:
            self.expected.setText(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")
            self.changed.emit()
            return
        order = ", then ".join(side.name or "…" for side in plan.places)
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
        self.changed.emit()


def _needs_a_lever(tool: ToolFacts, contrast: Contrast) -> bool:
    """What makes no sense on a screwdriver."""
    facts = CONTRASTS[contrast]
    return tool.kind.is_screwdriver and (facts.hands or any(facts.adapters))
