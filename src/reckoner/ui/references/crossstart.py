"""Beginning to hold a reference against something else: what, at which torques, and what hangs for each."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.entry import read_list
from reckoner.core.quantities.printing import number, percent, quantity
from reckoner.core.quantities.units import MILLIMETRE, N_M, Kind, Unit
from reckoner.core.reference.plan import LONGEST_LEVER
from reckoner.core.translation import tr
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.procedures.weights import hanging_cautions
from reckoner.shop.references import crossruns
from reckoner.shop.references.crossruns import ComparedReference, CrossState
from reckoner.shop.setups import hanging
from reckoner.shop.setups.equipment import Equipment, means
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.cautions import Cautions
from reckoner.ui.widgets.chips import Chips, named
from reckoner.ui.widgets.entry import EntryField, quantity_reader, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

WEIGHTS = "weights"


class CrossStart(QWidget):
    """Signals ``begun(CrossState)``, ``left()``."""

    begun = pyqtSignal(object)
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._facts: ReferenceFacts | None = None
        self._unit = N_M
        self._others: tuple[ComparedReference, ...] = ()
        self._means = Equipment()
        self.other: ComparedReference | None = None
        theme = around.theme
        self.against = Chips(theme, tr("Against"))
        self.against.chosen.connect(self._update_state)
        self.torques = EntryField(theme, tr("At which torques"), words_reader, tr("such as 20, 60, 100 N·m"))
        self.arm = EntryField(
            theme,
            tr("The arm reaches to, from the drive's centre"),
            quantity_reader(Kind.LENGTH, MILLIMETRE),
            tr("such as 600 mm"),
        )
        self.rule = Chips(theme, tr("Lengths are measured with"))
        self.rule.chosen.connect(self._update_state)
        for field in (self.torques, self.arm):
            field.line.textChanged.connect(lambda _text: self._update_state())
            field.given.connect(lambda _value: self.begin_now())
        self._rules = named(theme, tr("Measured with"), self.rule)
        self.plan = label(theme, "", Type.BODY, wrap=True)
        self.lacking = label(theme, "", Type.STRONG, wrap=True)
        self.cautions = Cautions(theme, hanging_cautions(None))
        self.begin = button(theme, tr("Begin the check"), self.begin_now)
        self.setLayout(
            column(
                label(theme, tr("Hold it against"), Type.TITLE),
                self.against,
                self.torques,
                self.arm,
                self._rules,
                self.plan,
                self.lacking,
                self.cautions,
                row(self.begin, button(theme, tr("Leave it"), self.left.emit, "link"), 1, gap=1),
                gap=1,
            )
        )

    def open_for(self, facts: ReferenceFacts, unit: Unit) -> None:
        """Ask what the shop has, and begin with what is usual for a reference."""
        self._facts, self._unit, today = facts, unit, self._around.today
        torques = ", ".join(number(unit.from_si(t)) for t in crossruns.proposed(facts))
        self.torques.line.setText(f"{torques} {unit.symbol}")
        self.arm.clear()

        self._around.work.browse(
            both(call(crossruns.others, facts.id, today), call(means)),
            lambda found: self._show_others(*found),
        )

    def _show_others(self, others: tuple[ComparedReference, ...], means: Equipment) -> None:
        self._others, self._means = others, means
        choices = [(other.name, other.name) for other in others]
        if means.weights:
            choices.insert(0, (WEIGHTS, tr("weights on an arm")))
        self.against.offer(choices, [choices[0][0]] if choices else [])
        rules = means.rule_choices(self._around.own)
        self.rule.offer(rules, [rules[0][0]])
        self.arm.read_with(quantity_reader(Kind.LENGTH, self._around.own.length))
        self.arm.line.setPlaceholderText(tr("such as {value}", value=self._around.own.example(Kind.LENGTH, 0.6)))
        self._update_state()

    @property
    def _targets(self) -> tuple[float, ...]:
        """The torques that are typed, in N·m. Raises InputRefused."""
        return tuple(q.si for q in read_list(self.torques.text, Kind.TORQUE, default=self._unit))

    def _update_state(self) -> None:
        by_weights = self.against.one == WEIGHTS
        for widget in (self.arm, self._rules, self.cautions):
            widget.setVisible(by_weights)
        self.other, lacks = None, ""
        try:
            targets = self._targets
            if by_weights:
                if not self.arm.text.strip():
                    lacks = tr(
                        "Say how far the arm reaches. It is levelled and zeroed with the meter before anything hangs."
                    )
                else:
                    self.other = self._hung(targets)
                    lacks = self._missing(self.other, targets)
            else:
                self.other = next((o for o in self._others if o.name == self.against.one), None)
                lacks = (
                    ""
                    if self.other is not None
                    else tr("There is nothing to hold it against: add weights, or a meter.")
                )
        except InputRefused as refusal:
            lacks = f"{refusal.reason[:1].upper()}{refusal.reason[1:]}."
        self.lacking.setText(lacks)
        self.lacking.setVisible(bool(lacks))
        self.plan.setText("" if self.other is None else self._planned(self.other))
        self.begin.setEnabled(self.other is not None and not lacks)

    def _hung(self, targets: tuple[float, ...]) -> ComparedReference:
        reach = self.arm.value()
        if reach > LONGEST_LEVER:
            raise InputRefused("arm", reach, tr("that cannot be an arm's length: measure it, and give its unit"))
        unsure = self._means.rule_uncertainty(self.rule.one)
        return crossruns.on_an_arm(self._means.weights, self._means.gravity, reach, unsure, targets)

    def _missing(self, other: ComparedReference, targets: tuple[float, ...]) -> str:
        """What the box does not make at this arm."""
        assert_lever = other.lever
        gone = [quantity(t, self._unit) for t in targets if assert_lever is None or assert_lever.at(t) is None]
        if gone:
            return tr(
                "{list} cannot be made with these weights on that arm; leave it out, or take another arm.",
                list=", ".join(gone),
            )
        return ""

    def _planned(self, other: ComparedReference) -> str:
        """What hangs for each torque, or where the other one is known."""
        if other.lever is None:
            low, high = (quantity(p.torque, self._unit) for p in (other.points[0], other.points[-1]))
            worst = max(p.expanded_uncertainty for p in other.points)
            return tr(
                "{name} is known from {low} to {high}, W {worst} at worst.",
                name=other.name,
                low=low,
                high=high,
                worst=percent(worst, 2),
            )
        return "\n".join(
            f"{hanging.hung_words(hung, self._around.own)}: {hanging.torque_words(other.lever, hung, self._unit)}, "
            f"W {percent(other.lever.worth(hung), 2)}"
            for hung in other.lever.points
        )

    def begin_now(self) -> None:
        """Begin it."""
        facts, other = self._facts, self.other
        if facts is None or other is None or not self.begin.isEnabled():
            return
        if self._around.person is None:
            self._say(tr("Choose who is at the bench first, at the top right."))
            return
        targets, act = self._targets, self._around.act()

        def begun(state: CrossState) -> None:
            self.begun.emit(state)

        def refused(refusal: Refused) -> None:
            if getattr(refusal, "field", "") == "targets":
                self.torques.refuse(str(refusal))
                self.torques.setFocus()
            else:
                self._say(str(refusal))

        self._around.work.ask(call(crossruns.begin, facts.id, other, targets, act), begun, refused)

    def _say(self, sentence: str) -> None:
        self.lacking.setText(sentence)
        self.lacking.show()
