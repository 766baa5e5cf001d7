"""Start: what Reckoner proposes for the tool, each part to be changed, and what the register lacks."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from functools import partial
from typing import Any

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr
from reckoner.shop.facts.limits import limits_words
from reckoner.shop.register import completing
from reckoner.shop.register.completing import ModelFact
from reckoner.shop.register.editing import Command
from reckoner.shop.runs.kinds import POLICIES
from reckoner.shop.runs.planning import Proposal, propose
from reckoner.store.terms import RunKind
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.bench.setup.startform import SECOND, StartForm
from reckoner.ui.layout import column, scrolling, surface
from reckoner.ui.theme import Type
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader, quantity_reader, understood
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class StartPanel(Panel):
    """Nothing is kept until Enter; what a person changes against the rule set wants a reason."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._tool_id = 0
        self.title = label(self.theme, "", Type.HEADLINE, wrap=True)
        self.why = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self.left_out = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self.kinds = Chips(self.theme, tr("Kind of run"))
        self.form = StartForm(self.theme)
        self._lacking = column(gap=1)
        self._fields: dict[ModelFact, EntryField[Any]] = {}
        self._lacking_of = 0
        self._given: set[ModelFact] = set()
        self._begins = self._at_once = False
        for chips in (self.kinds, self.form.rule_sets, self.form.scales):
            chips.chosen.connect(self._propose_again)
        self.form.entered.connect(self._put)
        self.form.refused.connect(desk.fault)
        top = surface(column(self.title, self.why, self.left_out, self.kinds, gap=2, margin=3))
        self._lacking_box = QWidget()
        self._lacking_box.setLayout(
            column(label(self.theme, tr("The register lacks"), Type.LEAD), self._lacking, gap=1)
        )
        body = QWidget()
        body.setLayout(column(self._lacking_box, self.form, 1, gap=2, margin=3))
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
        at_once: bool = False,
    ) -> None:
        """Ask for the proposal and show it; ``at`` a torque (N·m) where one is asked for. ``at_once``: begin, where
        nothing misleads and nothing is left out."""
        self._at_once = at_once
        if tool_id != self._tool_id:
            self.form.proposal = None  # what stood here is of another tool
        self._tool_id = tool_id
        today = self.desk.around.today
        self.desk.around.work.browse(
            call(
                propose,
                tool_id,
                today,
                kind,
                rule_set,
                second_scale=second_scale,
                at=at,
                hanger=self.desk.around.station.settings.hanger,
            ),
            self._show_proposal,
            self._cannot,
        )

    def _cannot(self, refusal: Refused) -> None:
        self.form.proposal = None
        self.desk.fault(str(refusal))
        self.desk.offer()

    def _propose_again(self) -> None:
        kind = RunKind(self.kinds.one)
        same_kind = self.form.proposal is not None and self.form.proposal.plan.kind is kind
        second = self.form.scales.one == SECOND
        self.propose(self._tool_id, kind, self.form.rule_sets.one if same_kind else None, second_scale=second)

    def _show_proposal(self, found: Proposal) -> None:
        self.desk.fault("")
        tool, plan = found.tool, found.plan
        self.title.setText(tr("{number} comes to the bench", number=tool.number))
        limit = limits_words([(p, found.rules.limit(tool.kind, p)) for p in plan.points], tool.unit)
        self.why.setText(
            tr(
                "{reason} {title}, {limit}; {exercise} releases for exercise first.",
                reason=found.reason,
                title=found.rules.title,
                limit=limit,
                exercise=found.rules.exercise,
            )
        )
        note = found.plan.note
        self.left_out.setText(tr("{note}; the record says so.", note=note) if note else "")
        self.left_out.setVisible(bool(note))
        self.kinds.offer([(k.value, policy.words) for k, policy in POLICIES.items()], [plan.kind.value])
        self.form.show_proposal(found)
        self._show_lacking(found)
        self.setFocus()
        self.desk.offer()
        at_once, self._at_once = self._at_once, False
        if at_once and self.form.ready:
            self._put()

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
                field = EntryField(self.theme, f"{lack.name}: {lack.why}", _reader_of(lack.fact, found.tool.own_units))
                field.line.editingFinished.connect(partial(self._left, lack.fact))
                self._fields[lack.fact] = field
                self._lacking.addWidget(field)
                field.show()  # at once: Tab would pass what is shown only with the next turn of events
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
        chosen = self.form.proposal.plan if self.form.proposal is not None else None

        def kept(command: Command) -> None:
            self.desk.around.undo_stack.did(command)
            kind, rule_set = (chosen.kind, chosen.rule_set) if chosen is not None else (None, None)
            second = chosen is not None and chosen.second_scale
            self.desk.around.work.browse(
                call(propose, tool_id, today, kind, rule_set, second_scale=second), known, self._cannot
            )

        def known(found: Proposal) -> None:
            if found.tool.id == self._tool_id and self.form.proposal is not None:
                self.form.proposal = replace(found, plan=self.form.proposal.plan)
                self._show_lacking(found)
                self.form.look()
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

    def action(self) -> Action | None:
        return Action(tr("Put it on the bench"), self._put) if self.form.proposal is not None else None

    def _put(self) -> None:
        """Begin the run as it is planned."""
        typed = next((fact for fact, field in self._fields.items() if field.text.strip()), None)
        if typed is not None:  # kept first, each in its turn
            if understood(self._fields[typed]):
                self._give(typed, begin=True)
            return
        plan = self.form.given() if self.form.proposal is not None else None
        if plan is not None:
            self.desk.begin(self._tool_id, plan)


def _reader_of(fact: ModelFact, own: OwnUnits) -> TextReader[Any]:
    """As its field reads it; but a bare length is nothing: the unit of a lever is never guessed."""
    if fact is ModelFact.LEVER_LENGTH:
        return quantity_reader(Kind.LENGTH, None)
    return partial(completing.field_for(fact).read, own=own)
