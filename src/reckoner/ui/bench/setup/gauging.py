"""Setting a run up with a force gauge or hanging scale: where it pulls, what it was looked at with, and what it is worth."""

from __future__ import annotations

import math

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent
from reckoner.core.quantities.units import DEGREE, Kind
from reckoner.core.translation import tr
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups.equipment import Equipment
from reckoner.shop.setups.gauging import Gauge, PullFacts, SquareCheck, check_pull
from reckoner.shop.setups.plan import must_hang_at_the_mark
from reckoner.shop.words.results import settable
from reckoner.ui.bench.setup.leversheet import ONLY_AT_THE_MARK, LeverSheet
from reckoner.ui.drawings.levershape import LeverPart, LeverState
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.chips import named
from reckoner.ui.widgets.entry import quantity_reader
from reckoner.ui.widgets.text import label

SQUARE_WORDS = {
    SquareCheck.SQUARE: tr("with a set square, to 1°"),
    SquareCheck.EYE: tr("by eye, to 5°"),
    SquareCheck.MEASURED: tr("measured, not square"),
}


class GaugeSheet(LeverSheet[PullFacts]):
    """``pull`` is the set-up that stands there."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self._gauge: Gauge | None = None
        self.pull: PullFacts | None = None
        words = tr(
            "The drive upright in the vice, so that the tool swings level and its own weight does not "
            "count. Hook the gauge to the grip mark, and pull level and square to the lever until it "
            "signals, or the tool shows the torque."
        )
        self.hook = self.length_or_mass(0.412, "hook", tr("Hooked at, from the drive"))
        self.weight = self.length_or_mass(9.967, "weight", tr("A known weight on it first"), Kind.MASS)
        self.showed = self.length_or_mass(10.0, "showed", tr("It shows"), Kind.MASS)
        self.square = self.choice("square", tr("The pull is square"))
        self.angle = self.field(
            "angle", tr("Between the pull and the lever"), quantity_reader(Kind.ANGLE, DEGREE), tr("such as 75°")
        )
        self.setLayout(
            column(
                label(theme, words, Type.BODY, wrap=True),
                self.lacking,
                self.grip,
                self.hook,
                row(self.weight, self.showed, gap=2),
                named(theme, tr("Measured with"), self.rule),
                named(theme, tr("Square"), self.square),
                self.angle,
                self.drawing,
                self.worth,
                gap=1,
            )
        )

    def start(self, run: RunState, means: Equipment) -> None:
        with self.filling():
            super().start(run, means)
            for field in (self.weight, self.showed, self.angle):
                field.clear()
            self.hook.line.setText(self.own_units.length_words(run.tool.lever) if run.tool.lever else "")
            self.square.offer([(one.value, words) for one, words in SQUARE_WORDS.items()], [SquareCheck.EYE.value])

    def pull_with(self, gauge: Gauge) -> None:
        """Pull with this one."""
        self._gauge = gauge
        self.look()

    def value(self) -> PullFacts:
        if self.lacks or self.pull is None:
            raise InputRefused("pull", None, self.lacks)
        return self.pull

    @property
    def lacks(self) -> str:
        """What is still to be said; empty when it can be used."""
        if self._mend or self.pull is None or self._run is None:
            if not self._mend and self.square.one == SquareCheck.MEASURED and not self.angle.text.strip():
                return tr("Say the angle between the pull and the lever.")
            return self._mend or tr("Say how far the grip mark, and the hook, are from the drive.")
        try:
            check_pull(self.pull, self._run.tool, tuple(self.targets))
        except ShopRefused as refusal:
            return str(refusal)
        return ""

    def update_state(self) -> None:
        run, gauge = self._run, self._gauge
        if run is None or gauge is None:
            return
        self._mend, self.pull = "", None
        grip, hook = self._grip(), self._number(self.hook)
        weight, showed = self._number(self.weight), self._number(self.showed)
        askew = self.square.one == SquareCheck.MEASURED
        self.angle.setVisible(askew)
        angle = self._number(self.angle) if askew else math.pi / 2
        if grip and hook and not run.tool.pivot < hook <= grip * (1 + 1e-9):
            self._cannot(self.hook, tr("It is hooked beyond the pin, and no further than the grip mark."))
        elif grip and hook and angle and not self._mend:
            self.pull = PullFacts(
                gauge,
                grip if must_hang_at_the_mark(run.tool) else hook,
                grip,
                run.tool.pivot,
                self.length_uncertainty,
                self._means.gravity[0],
                SquareCheck(self.square.one),
                (weight, showed) if weight is not None and showed is not None else None,
                angle,
            )
        self._draw(run)

    def _moved(self, part: LeverPart, metres: float) -> None:
        if part is LeverPart.HOOK:
            self.hook.line.setText(self.own_units.length_words(self.own_units.on_rule(metres)))

    def _draw(self, run: RunState) -> None:
        pull = self.pull
        if pull is not None:
            self.drawing.show_state(LeverState(units=self.own_units, grip=pull.grip, pivot=pull.pivot, hook=pull.hook))
        self.worth.setText(" ".join(self._words(run, pull)) if pull is not None and not self.lacks else "")

    def _words(self, run: RunState, pull: PullFacts) -> list[str]:
        """What it is worth at each point, and what would make it decide."""
        said, targets = [], self.targets
        top = settable(run.tool.kind, targets[-1], run.tool.unit)
        said.append(
            tr(
                "{top} wants a pull of {force_for}.",
                top=top,
                force_for=pull.shown_words(pull.force_for(targets[-1]), self.own_units),
            )
        )
        if must_hang_at_the_mark(run.tool):
            said.append(ONLY_AT_THE_MARK)
        if pull.gauge.uncertainty is None:
            said.append(
                tr(
                    "What {number} is worth is not known: a shop check, until its certificate is entered.",
                    number=pull.gauge.number,
                )
            )
        elif pull.check is None:
            said.append(tr("Hang a known weight on it first; without that it is a shop check."))
        elif pull.off is not None:
            worst = max(pull.reference_at(t).expanded_uncertainty for t in targets)
            weak = [
                settable(run.tool.kind, t, run.tool.unit)
                for t in targets
                if not run.suffices(pull.reference_at(t).expanded_uncertainty, t)
            ]
            said.append(
                tr(
                    "{off} at that weight; W up to {worst}.",
                    off=percent(pull.off, 2, sign=True),
                    worst=percent(worst, 2),
                )
            )
            said.append(
                tr("Too unsure to decide at {list}.", list=", ".join(weak))
                if weak
                else tr("Good enough to decide each point.")
            )
        return said
