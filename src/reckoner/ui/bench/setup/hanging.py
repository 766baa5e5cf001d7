"""Setting a run up with known weights: what hangs where at each point, drawn true to scale, and what it is worth."""

from __future__ import annotations

from dataclasses import replace

from reckoner.core.errors import InputRefused
from reckoner.core.quantities import printing
from reckoner.core.quantities.checks import at_most
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import DEGREE, N_M, Kind
from reckoner.core.reference.plan import MOST_HUNG, HungWish
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.weights import possible, wants_a_step, ways_to_hang, with_step
from reckoner.shop.register.completing import MeasuredTool
from reckoner.shop.runs.state import RunState
from reckoner.shop.setups import hanging, plan
from reckoner.shop.setups.equipment import Equipment
from reckoner.shop.setups.hanging import Anchor, HungAt, Levelled, LeverFacts
from reckoner.shop.setups.worth import biggest_share, hiding, shortcuts
from reckoner.shop.words.hanging import (
    ANCHOR_WORDS,
    LEVEL_WORDS,
    TRIP_FINDING_WORDS,
    at_the_mark,
    steps_words,
    too_few,
)
from reckoner.shop.words.results import settable
from reckoner.ui.bench.setup.leversheet import ONLY_AT_THE_MARK, LeverSheet, OwnGiven, OwnWay, OwnWeightForm
from reckoner.ui.bench.setup.pin import PinForm
from reckoner.ui.drawings.levershape import LeverPart, LeverState
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.chips import Chips, named
from reckoner.ui.widgets.entry import quantity_reader, torque_reader
from reckoner.ui.widgets.text import label

FROM_THE_DRIVE, DISC_RADIUS = (
    tr("From the drive's centre to the grip mark"),
    tr("The disc's radius, to the middle of the rope"),
)
NO_OWN = OwnGiven(0.0, 0.0, 0.0, 0.0)
"""A disc on the drive of a screwdriver that is held level: nothing of it pulls."""


class HangingSheet(LeverSheet[LeverFacts]):
    """``lever`` is the set-up that stands there."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.lever: LeverFacts | None = None
        self._disc = False
        self._wish: HungWish | None = None
        self._ways: dict[float, tuple[HungAt, ...]] = {}
        self._chosen: dict[float, HungAt] = {}
        self.points = Chips(theme, tr("Point"))
        self.points.chosen.connect(self._look_at)
        self.ways = Chips(theme, tr("What to hang"))
        self.ways.chosen.connect(self._take_way)
        self.most = label(theme, "", Type.BODY, wrap=True)
        self.has = label(theme, "", Type.LEAD, wrap=True)
        self.has.hide()
        self.short = label(theme, "", Type.CAPTION, "quiet", wrap=True)
        self.own = OwnWeightForm(theme)
        self.own_mass, self.own_centre, self.own_torque = self.own.mass, self.own.centre, self.own.meter
        self.tilt = self.field(
            "tilt", tr("Off level by"), quantity_reader(Kind.ANGLE, DEGREE), tr("measured, such as 2°")
        )
        self.hanger = self.length_or_mass(None, "hanger", tr("Hook and rope weigh"), Kind.MASS, tr("all that hangs"))
        self.head = self.length_or_mass(None, "head", tr("Its head weighs"), Kind.MASS, tr("not swinging"))
        self.graduation = self.field(
            "graduation", tr("One step of its scale"), torque_reader(N_M), tr("such as 0.5 N·m")
        )
        self.finding = self.choice("finding", tr("To find where it trips, vary"))
        self.level = self.choice("level", tr("The lever is level"))
        self.anchor = self.choice("anchor", tr("What holds the drive"))
        self._picked = ""
        self.finding.chosen.connect(self._pick)
        self.include(self.own)
        self.pin = PinForm(theme)
        self.include(self.pin)
        self._finding_row = named(theme, tr("Vary"), self.finding)
        self._level_row, self._anchor_row = named(theme, tr("Level"), self.level), named(theme, tr("Held"), self.anchor)
        self.setLayout(
            column(
                self.has,
                self.lacking,
                self.grip,
                self.graduation,
                self.own,
                row(self.head, self.hanger, gap=2),
                self.pin,
                named(theme, tr("Measured with"), self.rule),
                self._level_row,
                self.tilt,
                self._anchor_row,
                self._finding_row,
                named(theme, tr("Point"), self.points),
                named(theme, tr("Hang"), self.ways),
                self.drawing,
                self.worth,
                self.most,
                self.short,
                gap=1,
            )
        )

    def start(self, run: RunState, means: Equipment, wish: HungWish | None = None, hanger: float = 0.0) -> None:
        """A run, with nothing said yet; with a ``wish`` what a person has hangs, and what the register lacks of the tool is
        not known. ``hanger``: what hook and rope weighed last (kg); what a person has is said with all that hangs."""
        with self.filling():
            self._wish = wish
            super().start(run, means)
            self._begin(run.tool, means)
            if hanger and wish is None:
                self.hanger.line.setText(self.own_units.mass_words(hanger))
            if wish is not None and not (run.tool.own_mass and run.tool.own_centre) and not self._disc:
                self.own.way.choose(OwnWay.UNKNOWN)
                self.own.look()
            self.has.setVisible(wish is not None)

    def _begin(self, tool: ToolFacts, means: Equipment) -> None:
        self._chosen = {}
        self._disc = tool.kind.is_screwdriver
        self.grip.relabel(DISC_RADIUS if self._disc else FROM_THE_DRIVE)
        for widget in (self.own, self._level_row, self._anchor_row):
            widget.setVisible(not self._disc)
        self.head.setVisible(tool.pivot > 0 and not self._disc)
        for field in (self.head, self.hanger, self.tilt):
            field.clear()
        self.tilt.hide()
        self.own.show_tool(tool, means.scales)
        self.pin.start(tool)
        usual = Levelled.LEVEL if means.level else Levelled.EYE
        self.level.offer([(one.value, words) for one, words in LEVEL_WORDS.items()], [usual.value])
        self.anchor.offer([(one.value, words) for one, words in ANCHOR_WORDS.items()], [Anchor.VICE.value])
        self.graduation.clear()
        self.graduation.read_with(torque_reader(tool.unit))
        self.graduation.setVisible(wants_a_step(tool))
        self.finding.offer([], [])
        self._picked = ""
        self._offer_findings(tool)
        points = [(repr(t), settable(tool.kind, t, tool.unit)) for t in self.targets]
        self.points.offer(points, [points[0][0]])

    def value(self) -> LeverFacts:
        if self.lacks or self.lever is None:
            raise InputRefused("lever", None, self.lacks)
        return self.lever

    @property
    def target(self) -> float:
        """The point that is looked at."""
        return float(self.points.one)

    def _offer_findings(self, tool: ToolFacts) -> None:
        """The ways in which a tool's trip can be found; what a person has chosen stays where it can."""
        serve = possible(tool)
        keep = self._picked if self._picked in serve else serve[0].value
        self.finding.offer([(one.value, TRIP_FINDING_WORDS[one]) for one in serve], [keep])
        self._finding_row.setVisible(len(serve) > 1)

    def _pick(self) -> None:
        self._picked = self.finding.one

    @property
    def step(self) -> float:
        """One step of the tool's scale in N·m, where the register does not know it; 0 where it does, or nothing is said."""
        run = self._run
        return self._number(self.graduation) or 0.0 if run is not None and wants_a_step(run.tool) else 0.0

    @property
    def measured(self) -> MeasuredTool:
        """What was said of the tool itself; of a screwdriver on a disc nothing but its step."""
        if self._disc or self.lever is None:
            return MeasuredTool(resolution=self.step)
        weighed = self.own.way.one == OwnWay.BALANCED
        return MeasuredTool(
            lever_length=self.lever.grip,
            own_mass=self.lever.own_mass if self.own.way.one != OwnWay.UNKNOWN else None,
            own_centre=self.lever.own_centre if weighed else None,
            resolution=self.step,
            pivot_offset=self.pin.found.offset if self.pin.found is not None else None,
            pivot_of_model=self.pin.of_model,
        )

    @property
    def way(self) -> TripFinding:
        """How the trip is to be found."""
        return TripFinding(self.finding.one)

    @property
    def lacks(self) -> str:
        """What is still to be said; empty when it can be hung."""
        run = self._run
        if self._mend:
            return self._mend
        if run is not None and wants_a_step(run.tool) and not self.graduation.text.strip():
            return tr("Say how fine its scale is, so that what it is set to can be varied.")
        if self._disc and self.lever is None:
            return tr(
                "Say the radius of the disc on its drive, to the middle of the rope. The handle is held level "
                "in soft jaws, and the rope hangs from the rim."
            )
        if run is None or self.lever is None:
            grip = (
                tr("Say how far the grip mark is from the drive, ")
                if run is not None and run.tool.lever is None
                else tr("Say ")
            )
            return tr("{grip}{wants}: its own weight pulls too.", grip=grip, wants=self.own.wants)
        open_points = [s.target for s in run.found if self.lever.at(s.target) is None]
        if open_points:
            words = settable(run.tool.kind, min(open_points), run.tool.unit)
            if self.way is TripFinding.WEIGHTS:
                return too_few(run.tool, words)
            where = at_the_mark(run.tool)
            pin = (
                tr("; or say on its model where its pin is, and they can hang anywhere")
                if where and not self._disc
                else ""
            )
            return tr(
                "{words} cannot be made with these weights{where}, and at most {most} on a lever: "
                "leave the point out, or add weights{pin}.",
                words=words,
                where=where,
                most=self.own_units.mass_words(MOST_HUNG),
                pin=pin,
            )
        return ""

    def update_state(self) -> None:
        """Something of the set-up is otherwise: what hangs where is found anew."""
        run = self._run
        if run is None or not self.points.chips:
            return
        self._mend, self.lever = "", None
        grip, head, hanger = self._grip(), self._number(self.head), self._number(self.hanger)
        self.tilt.setVisible(self.level.one == Levelled.MEASURED and not self._disc)
        tilt = self._number(self.tilt) if self.tilt.isVisibleTo(self) else 0.0
        own = (
            NO_OWN
            if self._disc
            else self.own.found(self._number, self._means.gravity[0], self.length_uncertainty, grip)
        )
        self.pin.hooks_uncertainty, self.pin.mass_uncertainty = self.length_uncertainty, self.own.scale_uncertainty
        tool = self._with_step(self._with_pin(run.tool))
        if (self.way not in possible(tool)) or len(self.finding.chips) != len(possible(tool)):
            self._offer_findings(tool)
        if self._mend or own is None or grip is None or tilt is None:
            self._draw()
            return
        bare = replace(
            plan.lever_for(tool, self._means.gravity),
            grip=grip,
            own_mass=own.mass,
            own_centre=own.centre,
            own_mass_uncertainty=own.mass_uncertainty,
            own_centre_uncertainty=own.centre_uncertainty,
            own_torque=own.torque,
            own_torque_uncertainty=own.torque_uncertainty,
            own_known=own.known,
            pin_known=self._disc or not plan.must_hang_at_the_mark(tool),
            head=head,
            hanger=hanger or 0.0,
            hanger_uncertainty=self.own.scale_uncertainty if hanger else 0.0,
            tilt=tilt,
            disc=self._disc,
            pivot=0.0 if self._disc else tool.pivot,
            pivot_uncertainty=2 * self.pin.found.standard_uncertainty if self.pin.found is not None else 0.0,
            length=self.length_uncertainty,
            levelled=Levelled(self.level.one),
            anchor=Anchor(self.anchor.one),
        )
        found = hanging.amiss(bare)
        if found is not None:
            name, sentence = found
            self._cannot(getattr(self, name), sentence)
            self._draw()
            return
        self._ways = {}
        for target in self.targets:
            try:
                self._ways[target] = ways_to_hang(bare, tool, self._means.weights, target, self.way)
            except InputRefused:
                self._ways[target] = ()
            if self._wish is not None and self.way is not TripFinding.WEIGHTS:
                had = plan.hung_for(self._wish, target, self._means.weights)
                if had.hook > bare.pivot and hanging.is_near(bare.torque(had), target):
                    self._ways[target] = (had, *self._ways[target])
        self._chosen = {t: w[0] for t, w in self._ways.items() if w}
        self.lever = replace(bare, points=tuple(self._chosen.values()))
        self._draw()

    def _with_pin(self, tool: ToolFacts) -> ToolFacts:
        """The tool with the pin that two hooks have told."""
        found = self.pin.found
        return replace(tool, pivot=found.offset) if found is not None and found.offset > 0 else tool

    def _with_step(self, tool: ToolFacts) -> ToolFacts:
        """The tool as far as it is known, with the step of its scale that is typed here."""
        step = self.step
        if not step:
            return tool
        try:
            return with_step(tool, step)
        except ShopRefused as refusal:
            self._cannot(self.graduation, str(refusal))
            return tool

    def _take_way(self) -> None:
        """One of the ways to hang it."""
        self._hang(self._ways[self.target][int(self.ways.one)])

    def _hang(self, hung: HungAt) -> None:
        if self.lever is not None:
            self._chosen[hung.target] = hung
            self.lever = replace(self.lever, points=tuple(self._chosen.values()))
            self._look_at()

    def _moved(self, part: LeverPart, metres: float) -> None:
        if part is LeverPart.BALANCE:
            self.own_centre.line.setText(self.own_units.length_words(self.own_units.on_rule(metres)))
        elif part is LeverPart.TILT:
            self.tilt.line.setText(quantity(metres, DEGREE))
        elif self._run is not None and plan.must_hang_at_the_mark(self._run.tool):
            self.most.setText(ONLY_AT_THE_MARK)
        elif (hung := self._chosen.get(self.target)) is not None:
            self._hang(replace(hung, hook=self.own_units.on_rule(metres)))

    def _look_at(self) -> None:
        """Another point, or another way at it, with what else was said as it is."""
        self._draw()
        self.changed.emit()

    def _draw(self) -> None:
        run = self._run
        if run is None:
            return
        hung = self._chosen.get(self.target) if self.lever is not None else None
        found = self._ways.get(self.target, ()) if self.lever is not None else ()
        on = [str(i) for i, way in enumerate(found) if hung is not None and way.words == hung.words]
        self.ways.offer(
            [
                (str(i), tr("{words} at {hook}", words=w.words, hook=self.own_units.length_words(w.hook)))
                for i, w in enumerate(found)
            ],
            on[:1],
        )
        lever = self.lever
        self.drawing.show_state(
            LeverState(
                units=self.own_units,
                grip=(lever.grip if lever is not None else run.tool.lever) or 0.4,
                pivot=lever.pivot if lever is not None else run.tool.pivot,
                hook=hung.hook if hung is not None else None,
                balance=lever.own_centre if lever is not None and lever.own_centre else None,
                weights=tuple((w.number, w.mass) for w in hung.weights) if hung is not None else (),
                own=self.own_units.mass_words(lever.own_mass) if lever is not None and lever.own_mass else "",
                tilt_rad=lever.tilt if lever is not None and lever.levelled is Levelled.MEASURED else None,
                disc=self._disc,
                torque=tr("makes {torque_words}", torque_words=hanging.torque_words(lever, hung, run.tool.unit))
                if lever is not None and hung
                else "",
            )
        )
        self._say(run, lever, hung)

    def _elsewhere(self, run: RunState, lever: LeverFacts) -> str:
        """Which of the other points this set-up cannot decide."""
        weak = [
            settable(run.tool.kind, at.target, run.tool.unit)
            for at in lever.points
            if at.target != self.target and not run.suffices(lever.worth(at), at.target)
        ]
        return tr(" Too unsure at {list}.", list=", ".join(weak)) if weak else ""

    def _say(self, run: RunState, lever: LeverFacts | None, hung: HungAt | None) -> None:
        for words in (self.most, self.short):
            words.setVisible(lever is not None and hung is not None)
        if lever is None or hung is None:
            self.worth.clear()
            self.has.setText(tr("What you have: {words}.", words=self._wish.words) if self._wish is not None else "")
            return
        worth, limit = lever.worth(hung), run.limit(hung.target)
        allowed = run.rules.reference_limit(limit)
        makes = tr(
            "{words} makes {torque_words}, W {worth}",
            words=hung.words,
            torque_words=hanging.torque_words(lever, hung, run.tool.unit),
            worth=percent(worth, 2),
        )
        if self.own.way.one == OwnWay.WEIGHED:
            verdict = tr("where it balances is not known: this is a shop check until it lies level on an edge")
        elif not lever.own_known:
            verdict = tr("its own weight is not known: this is a shop check until it is weighed")
        elif not lever.at_the_pin:
            verdict = tr("where its pin is nobody knows: off the grip mark this is a shop check")
        elif not all(w.uncertainty is not None for w in hung.weights):
            verdict = tr("a stamp alone decides nothing: this is a shop check until they are weighed")
        elif at_most(worth, allowed):
            verdict = tr("good enough to decide {limit}", limit=printing.limit(limit))
        else:
            verdict = tr(
                "too unsure to decide {limit}: that wants {allowed}",
                limit=printing.limit(limit),
                allowed=percent(allowed, 2),
            )
        told = tr(
            "{words} at {hook} makes {torque_words}, W {worth}: {verdict}.",
            words=hung.words,
            hook=self.own_units.length_words(hung.hook),
            torque_words=hanging.torque_words(lever, hung, run.tool.unit),
            worth=percent(worth, 2),
            verdict=verdict,
        )
        if self._wish is not None and hung.hook != self._wish.hook:
            point = settable(run.tool.kind, hung.target, run.tool.unit)
            told = tr("What you have does not make {point}. Instead: {told}", point=point, told=told)
        self.has.setText(told)
        self.worth.setText(f"{makes}: {verdict}.{steps_words(lever, hung, run.tool)}{self._elsewhere(run, lever)}")
        self.most.setText(biggest_share(lever, hung))
        stamps = {w.number: w.stamped for w in self._means.weights if w.stamped is not None}
        found = shortcuts(lever, hung, stamps, self.own_units)
        told = "; ".join(
            tr(
                "{words} {off}, {off_2} of the limit",
                words=words,
                off=percent(off, 1, sign=True),
                off_2=percent(abs(off) / limit, 0),
            )
            for words, off in found
        )
        hidden = "".join(
            tr(
                " {upper}{one} and {other} hide each other: {left} together.",
                upper=one[:1].upper(),
                one=one[1:],
                other=other,
                left=percent(left, 1, sign=True),
            )
            for one, other, left in hiding(found, limit)
        )
        self.short.setText(tr("What shortcuts would make of it: {told}.{hidden}", told=told, hidden=hidden))
