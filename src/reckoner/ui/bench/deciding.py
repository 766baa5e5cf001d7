"""Decide and sign: the sentence, what follows, each point's numbers, every rule's answer, the budget, the derivation."""

from __future__ import annotations

from dataclasses import replace

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.budget import Budget
from reckoner.core.printing import THIN, fixed, percent, uncertainty_decimals
from reckoner.core.rules import Rule
from reckoner.core.simulation import Simulated, simulate_budget
from reckoner.core.verdict import PointResult, Verdict
from reckoner.shop import adjusting, signing
from reckoner.shop.acts import PersonFacts, people
from reckoner.shop.derivation import derivation
from reckoner.shop.run import RunKind, RunState
from reckoner.shop.wording import comparison_sentence, formal, rule_words, run_sentence, settable
from reckoner.ui.bench.instructions import series_name
from reckoner.ui.bench.panel import Desk, Panel, Primary
from reckoner.ui.bench.shares import Shares
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import label, set_tone


class DecidingPanel(Panel):
    """Also shows a signed run, where the primary thing is to go to the tool's sheet."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._verdict: Verdict | None = None
        self._open_point: int | None = None
        self._choices: tuple[signing.Choice, ...] = ()
        self._mark = FenceMark(self.theme, None, 40)
        self._sentence = label(self.theme, "", Type.HEADLINE, wrap=True)
        self._formal = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._caution = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self._due = label(self.theme, "", Type.LEAD, wrap=True)
        self._beside = label(self.theme, "", Type.BODY, wrap=True)
        self.outcomes = Chips(self.theme, "What follows")
        self.outcomes.chosen.connect(self._chosen_outcome)
        self.points = Chips(self.theme, "Show the budget at")
        self.points.chosen.connect(self._choose)
        self._adjust = button(self.theme, "Adjust it…", self._begin_adjusting)
        self._cannot_adjust = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        self.second = Chips(self.theme, "Second person")
        self.second.chosen.connect(self.desk.update_primary)
        self._second_title = label(self.theme, "Second person", Type.STRONG, "quiet")
        self._of_model = Chips(self.theme, "Kept for")
        self._remark = EntryField(self.theme, "A remark for the record", words_reader)
        self._amend = button(self.theme, "Amend this signed run…", self._ask_amend, "link")
        self._amend_why = EntryField(self.theme, "Why is it amended? The signed version stays", words_reader)
        self._amend_why.given.connect(self._amend_now)
        self._amend_why.hide()
        self._rules_title = label(self.theme, "What each rule says", Type.LEAD)
        self._rules = QGridLayout()
        self._rules.setHorizontalSpacing(2 * GRID)
        self._rules.setVerticalSpacing(GRID // 2)
        self._simulate = button(self.theme, "Simulate beside it, a million trials", self._ask_simulation, "link")
        self._simulated = label(self.theme, "", Type.BODY, wrap=True)
        self._people: tuple[PersonFacts, ...] = ()
        self._table = QGridLayout()
        self._table.setHorizontalSpacing(GRID)
        self._table.setVerticalSpacing(GRID)
        self._shares_title = label(self.theme, "", Type.LEAD)
        self._shares = Shares(self.theme)
        self._unfold = button(self.theme, "Show the whole derivation", self._toggle, "link")
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(2 * GRID)
        self._lines.setVerticalSpacing(GRID)
        for part, share in enumerate((2, 3, 4, 3)):
            self._lines.setColumnStretch(part, share)
        self._steps = QWidget()
        self._steps.setLayout(self._lines)
        self._steps.hide()
        said = row(self._mark, self._sentence, gap=3)
        said.setStretch(1, 1)
        what = column(self.outcomes, row(self._adjust, 1), gap=1)
        who = row(self._second_title, self.second, self._of_model, gap=2)
        who.setStretch(1, 1)
        who.setStretch(2, 1)
        amend = row(self._amend, 1)
        head = surface(
            column(
                said, self._beside, self._formal, self._caution, what, self._due, self._cannot_adjust, who, amend,
                self._amend_why, gap=1, margin=3,
            )
        )  # fmt: skip
        self._budget = QWidget()
        self._budget.setLayout(
            column(
                self._shares_title, self.points, self._shares, row(self._simulate, 1), self._simulated,
                row(self._unfold, 1), self._steps, gap=2,
            )
        )  # fmt: skip
        content = QWidget()
        content.setLayout(
            column(self._table, self._rules_title, self._rules, self._budget, self._remark, 1, gap=2, margin=2)
        )
        body = surface(column(scrolling(content)))
        layout = column(head, body, gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        fresh = self._run is None or self._run.id != run.id or self._run.adjusted != run.adjusted
        self._run = run
        today = self.desk.around.today if not run.signed else run.signed_on or self.desk.around.today
        found = run.verdict(today)
        self._verdict = found
        if found is None:
            return
        if fresh:
            self._open_point = None
            self._say_simulated("")
            self._remark.clear()
            self._amend_why.hide()
        characterised = run.kind is RunKind.CHARACTERISE
        self._mark.setVisible(not characterised)
        self._budget.setVisible(not characterised)
        self._mark.show_state(found.state, mirrored=found.worst.budget.deviation < 0)
        sentence = signing.characterised_sentence(run) if characterised else run_sentence(run.tool, found)
        self._sentence.setText(f"{sentence}.")
        self._formal.setText(
            "Each is the largest mean less the smallest over its places."
            if characterised
            else f"{formal(found, run.rules.title)}, by the rule “{rule_words(found.decision.rule)}”."
        )
        self._say_beside(run)
        self._say_caution(run, found)
        self._offer_outcomes(run, fresh)
        self._offer_adjusting(run)
        self._offer_people(run)
        self._say_due(run)
        self._fill_table(run, found)
        self._fill_rules(run, found)
        self._show_point()

    def _say_beside(self, run: RunState) -> None:
        """As found beside as left, and before beside after."""
        said = []
        as_found = run.found_verdict(self.desk.around.today) if run.left else None
        if as_found is not None:
            said.append(f"As found: {run_sentence(run.tool, as_found)}. Above: as left.")
        if run.kind is RunKind.EVENT:
            told = run.comparisons()
            if run.event:
                said.append(f"After: {run.event}.")
            if not told:
                said.append("There is no signed full run at this point to compare with.")
            several = len(told) > 1
            said += [
                f"{comparison_sentence(found, before.on, series_name(run, series) if several else '')}."
                for series, before, found in told
            ]
        if run.room_drifted and run.room is not None:
            said.append(
                f"The room drifted by {fixed(run.room.drift, 1)} °C during the run; {run.rules.title} allows "
                f"{fixed(run.rules.room.drift, 1)} °C."
            )
        if run.plan_note:
            said.append(f"Otherwise than proposed: {run.plan_note}.")
        self._beside.setText(" ".join(said))
        self._beside.setVisible(bool(said))

    def _offer_outcomes(self, run: RunState, fresh: bool) -> None:
        self._choices = () if run.signed else signing.choices(run, self.desk.around.today)
        if fresh or self.outcomes.one not in {c.outcome.value for c in self._choices}:
            first = [self._choices[0].outcome.value] if self._choices else []
            self.outcomes.offer([(c.outcome.value, c.words) for c in self._choices], first)
        self.outcomes.setVisible(len(self._choices) > 1)

    def _offer_adjusting(self, run: RunState) -> None:
        person, found = self.desk.around.person, self._verdict
        may = "" if person is None else adjusting.why_not(run, person, self.desk.around.today)
        wanted = not run.signed and run.kind is RunKind.FULL and found is not None and found.accepted is not True
        open_to = not run.signed and run.kind is RunKind.FULL and not may
        self._adjust.setVisible(open_to)
        set_tone(self._adjust, "" if wanted else "link")
        self._cannot_adjust.setText(may)
        self._cannot_adjust.setVisible(wanted and bool(may))

    def _offer_people(self, run: RunState) -> None:
        asked = run.rules.second_person and not run.signed
        self._second_title.setVisible(asked)
        self.second.setVisible(asked)
        if asked and not self._people:
            self.desk.around.work.ask(people, self._show_people)
        keep = run.kind is RunKind.CHARACTERISE and not run.signed
        self._of_model.setVisible(keep)
        if keep and not self._of_model.one:
            model = f"every {run.tool.maker} {run.tool.model}"
            self._of_model.offer([("tool", "this tool"), ("model", model)], ["tool"])
        self._remark.setVisible(not run.signed)
        self._amend.setVisible(run.signed and not run.amended)

    def _show_people(self, found: tuple[PersonFacts, ...]) -> None:
        self._people = found
        me = self.desk.around.person
        beside = signing.second_people(found, me.id if me else 0)
        self.second.offer([(str(p.id), p.initials) for p in beside], [])

    def _chosen_outcome(self) -> None:
        if self._run is not None:
            self._say_due(self._run)
        self.desk.update_primary()

    def _say_caution(self, run: RunState, found: Verdict) -> None:
        distrust = run.trust_words(self.desk.around.today)
        words = ""
        if run.kind is RunKind.CHARACTERISE:
            words = ""
        elif distrust:
            words = f"No decision: {distrust}."
        elif not found.reference_adequate:
            words = "No decision: the reference is not good enough for this tool."
        elif found.accepted is False:
            words = (
                "It must not be used as it is; what it tightened since its last good result may have to be looked at "
                "again, as the joint's maker says."
            )
        self._caution.setText(words)
        self._caution.setVisible(bool(words) and not run.signed)

    def _say_due(self, run: RunState) -> None:
        if run.signed:
            tail = {
                "held": " The tool is held.",
                "retired": " The tool is retired.",
                "full run": " A full run is asked for.",
            }
            due = f" Due again {run.signed_due:%-d %b %Y}." if run.signed_due else tail.get(run.outcome, "")
            beside = f" and {run.signed_with}" if run.signed_with else ""
            amended = " A later amendment replaces it." if run.amended else ""
            self._due.setText(f"Signed by {run.signed_by}{beside} on {run.signed_on:%-d %b %Y}.{due}{amended}")
        else:
            chosen = next((c for c in self._choices if c.outcome.value == self.outcomes.one), None)
            self._due.setText(chosen.why if chosen else "")
        set_tone(self._due, "good" if run.signed else "")

    def _fill_rules(self, run: RunState, found: Verdict) -> None:
        empty(self._rules)
        shown = run.kind is not RunKind.CHARACTERISE
        self._rules_title.setVisible(shown)
        if not shown:
            return
        answers = {True: "accepts", False: "does not accept", None: "leaves it open"}
        for i, rule in enumerate(Rule):
            judged = found.by_rule(replace(found.decision, rule=rule))
            used = rule is found.decision.rule
            role = Type.STRONG if used else Type.BODY
            worst = judged.worst
            tone = {True: "good", False: "fault", None: "quiet"}[judged.accepted]
            words = f"{rule_words(rule)}{', used here' if used else ''}"
            looked = (
                f"{percent(min(p.decision.probability for p in judged.points), 1)}, level {percent(judged.decision.level, 0)}"
                if rule is Rule.PROBABILITY
                else f"{percent(worst.decision.looked_at, 2)} of {percent(found.limit, 1)}"
            )
            self._rules.addWidget(label(self.theme, words, role, wrap=True), i, 0)
            self._rules.addWidget(label(self.theme, looked, Type.BODY), i, 1, Qt.AlignmentFlag.AlignRight)
            self._rules.addWidget(label(self.theme, answers[judged.accepted], role, tone), i, 2)
        self._rules.setColumnStretch(0, 1)
        self._rules.setColumnMinimumWidth(2, 14 * GRID)

    def _fill_table(self, run: RunState, found: Verdict) -> None:
        empty(self._table)
        unit = run.tool.unit.symbol
        places = run.kind is RunKind.CHARACTERISE
        heads: tuple[str, ...] = ("", f"set, {unit}", f"mean, {unit}", "dev. ā", "W", "W′", "P inside")
        if places:
            heads = ("", "measured", *heads[2:4])
        for i, text in enumerate(heads):
            side = Qt.AlignmentFlag.AlignRight if i > 0 else Qt.AlignmentFlag.AlignLeft
            self._table.addWidget(label(self.theme, text, Type.CAPTION, "quiet"), 0, i, side)
        both = len(run.tool.directions) > 1
        for i, (series, point) in enumerate(zip(run.series, found.points, strict=True)):
            if not places:
                self._table.addWidget(FenceMark(self.theme, point.decision.state, 18), i + 1, 0)
            name = settable(run.tool.kind, point.target, run.tool.unit).removesuffix(f"{THIN}{unit}")
            cells = (
                series.place if places else f"{series.direction} {name}" if both else name,
                fixed(run.tool.unit.from_si(point.budget.mean_reading), uncertainty_decimals(_doubt(run, point))),
                percent(point.budget.deviation, 2, sign=True),
                percent(point.budget.expanded_uncertainty, 2),
                percent(point.budget.uncertainty_interval, 2),
                percent(point.decision.probability, 1),
            )
            for j, text in enumerate(cells[: len(heads) - 1]):
                role = Type.STRONG if j in (0, 2) else Type.BODY if j == 1 else Type.CAPTION
                self._table.addWidget(label(self.theme, text, role), i + 1, j + 1, Qt.AlignmentFlag.AlignRight)
        for i in range(1, 7):
            self._table.setColumnStretch(i, int(i < len(heads)))

    def _choose(self) -> None:
        self._open_point = int(self.points.one)
        self._show_point()

    def _toggle(self) -> None:
        self._steps.setVisible(not self._steps.isVisible())
        self._unfold.setText("Hide the derivation" if self._steps.isVisible() else "Show the whole derivation")

    def _show_point(self) -> None:
        run, found = self._run, self._verdict
        if run is None or found is None or run.set_up is None:
            return
        worst = found.points.index(found.worst)
        index = self._open_point if self._open_point is not None and self._open_point < len(found.points) else worst
        point = found.points[index]
        self.points.offer([(str(i), series_name(run, series)) for i, series in enumerate(run.series)], [str(index)])
        self._shares_title.setText(
            f"Where the uncertainty at {settable(run.tool.kind, point.target, run.tool.unit)} comes from"
        )
        self._shares.show_point(point)
        basis = f", {run.effects_from}" if run.effects_from else ""
        self._shares.setToolTip(f"b values: {basis.strip(', ') or 'none measured'}")
        empty(self._lines)
        for i, step in enumerate(derivation(run.tool, run.set_up.reference, point, found)):
            top = Qt.AlignmentFlag.AlignTop
            self._lines.addWidget(label(self.theme, step.what, Type.CAPTION, "quiet", wrap=True), i, 0, top)
            self._lines.addWidget(label(self.theme, step.formula, Type.CAPTION, wrap=True), i, 1, top)
            self._lines.addWidget(label(self.theme, step.values, Type.CAPTION, wrap=True), i, 2, top)
            self._lines.addWidget(
                label(self.theme, step.result, Type.CAPTION, wrap=True), i, 3, top | Qt.AlignmentFlag.AlignRight
            )

    def primary_state(self) -> Primary | None:
        run, person = self._run, self.desk.around.person
        if run is None:
            return None
        if run.signed:
            return Primary("To the tool's sheet")
        if person is None:
            return Primary("Choose who signs", enabled=False)
        chosen = next((c for c in self._choices if c.outcome.value == self.outcomes.one), None)
        lacks = run.rules.second_person and not self.second.one
        verb = {
            "held": "Hold, sign",
            "restricted": "Restrict, sign",
            "retired": "Retire, sign",
            "keep holding": "Keep held, sign",
            "full run": "Full run, sign",
            "characterised": "Keep, sign",
        }.get(chosen.outcome.value if chosen else "", "Sign")
        return Primary(f"{verb} as {person.initials}", enabled=not lacks)

    def primary(self) -> None:
        run = self._run
        if run is None:
            return
        if run.signed:
            self.desk.around.go_tool(run.tool.id)
        else:
            outcome = signing.Outcome(self.outcomes.one) if self.outcomes.one else None
            remark, second = self._remark.text, int(self.second.one) if self.second.one else None
            of_model = self._of_model.one == "model"
            self.desk.do(
                lambda session, act: signing.sign(session, run.id, act, outcome, remark, second, of_model=of_model)
            )

    def _begin_adjusting(self) -> None:
        """Adjust at the point that is shown below: the worst unless another was chosen."""
        run, found = self._run, self._verdict
        if run is None or found is None:
            return
        index = self._open_point if self._open_point is not None else found.points.index(found.worst)
        series = run.series[index]
        self.desk.do(lambda session, act: adjusting.begin(session, run.id, series.id, act))

    def _ask_amend(self) -> None:
        self._amend_why.setVisible(not self._amend_why.isVisible())
        self._amend_why.setFocus()

    def _amend_now(self, reason: object) -> None:
        run = self._run
        if run is None:
            return
        act = self.desk.around.act()
        self.desk.around.work.ask(
            lambda session: signing.amend(session, run.id, str(reason), act).id,
            self.desk.show_run_id,
            lambda refusal: self._amend_why.refuse(str(refusal)),
            changes="runs",
        )

    def _ask_simulation(self) -> None:
        found = self._verdict
        if found is None:
            return
        index = self._open_point if self._open_point is not None else found.points.index(found.worst)
        budget = found.points[index].budget
        self._say_simulated("Drawing…")
        self.desk.around.work.ask(
            lambda _session: simulate_budget(budget), lambda drawn: self._show_simulation(drawn, budget)
        )

    def _say_simulated(self, words: str) -> None:
        self._simulated.setText(words)
        self._simulated.setVisible(bool(words))

    def _show_simulation(self, drawn: Simulated, budget: Budget) -> None:
        w = percent(drawn.standard_uncertainty, 3) if drawn.standard_uncertainty is not None else "not defined"
        low, high = percent(drawn.low_95, 2, sign=True), percent(drawn.high_95, 2, sign=True)
        self._say_simulated(
            f"Simulated: w {w} (first order {percent(budget.standard_uncertainty, 3)}); 95 % from {low} to {high}."
        )


def _doubt(run: RunState, point: PointResult) -> float:
    """What a point's mean is known to, in the tool's unit, to know how many decimals it deserves: its expanded uncertainty,
    or, where means are compared, the least of their ranges."""
    doubt = point.budget.expanded_uncertainty * point.budget.mean_reading
    if run.kind is RunKind.CHARACTERISE:
        doubt = min((b for b in vars(signing.measured_effects(run)).values() if b), default=doubt)
    return run.tool.unit.from_si(doubt)
