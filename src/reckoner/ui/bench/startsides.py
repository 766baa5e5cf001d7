"""What a comparison holds against each other: chosen and named before it begins."""

from __future__ import annotations

import math

from reckoner.core.errors import InputRefused
from reckoner.core.printing import fixed
from reckoner.core.translation import tr
from reckoner.core.units import Kind
from reckoner.shop.runs.sides import CONTRASTS, ContrastFacts, Side, SidesPlan
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.terms import Contrast
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.entry import plain_reader, quantity_reader, words_reader
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

    def dress(self) -> None:
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
        length = quantity_reader(Kind.LENGTH, None)
        self.name = form.field(f"{which} name", tr("{which} side", which=which), words_reader)
        self.adapter = form.field(f"{which} adapter", tr("Adapter's length"), length, tr("such as 45 mm"))
        self.angle = form.field(f"{which} angle", tr("At angle, in °"), plain_reader(-SQUARE, SQUARE, "°"), "0")
        self.hand = form.field(f"{which} hand", tr("Hand, from the drive"), length, tr("such as 40 cm"))
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
