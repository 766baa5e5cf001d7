"""Decide and sign: the sentence, what follows, each point's numbers, every rule's answer, the budget, the derivation."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QWidget

from reckoner.core.decision.verdict import Verdict
from reckoner.core.quantities import printing
from reckoner.core.quantities.checks import at_most
from reckoner.core.quantities.days import day_words
from reckoner.core.translation import tr
from reckoner.shop.people.present import PersonFacts, people
from reckoner.shop.planning.nextup import NextUp, next_up
from reckoner.shop.runs import adjusting, amending, continuing, signing
from reckoner.shop.runs.judging import judged, margin_of
from reckoner.shop.runs.outcomes import OutcomeChoice, choices, conclude
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.comparisons import beside_words, saying
from reckoner.shop.words.results import (
    SIGNING_VERBS,
    formal,
    rule_words,
    signed_tail,
    undecided_words,
)
from reckoner.store.terms import Outcome
from reckoner.ui.actions import key_words
from reckoner.ui.bench.deciding.behind import PullsView, SidesView, stages
from reckoner.ui.bench.deciding.certifying import Certifying
from reckoner.ui.bench.deciding.diary import DiaryView
from reckoner.ui.bench.deciding.learning import HowAdjusted
from reckoner.ui.bench.deciding.numbers import Numbers
from reckoner.ui.bench.deciding.passphrases import Passphrases
from reckoner.ui.bench.panel import Action, BenchAccess, Panel
from reckoner.ui.drawings.beforeafter import BeforeAfter
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.places import PlaceId, Target, WayBack
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import Flow
from reckoner.ui.widgets.mark import FenceMark
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call

if TYPE_CHECKING:
    pass

TOOL, MODEL = "tool", "model"
"""For what a characterisation is kept."""


class DecidingPanel(Panel):
    """Also shows a signed run, where the primary thing is to go to the tool's sheet."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk)
        self._run: RunState | None = None
        self._verdict: Verdict | None = None
        self.choices: tuple[OutcomeChoice, ...] = ()
        self._mark = FenceMark(self.theme, None, 40)
        self.sentence = label(self.theme, "", Type.HEADLINE, wrap=True)
        self._formal = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._caution = label(self.theme, "", Type.STRONG, "fault", wrap=True)
        self.due = label(self.theme, "", Type.LEAD, wrap=True)
        self.link = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        self.beside = label(self.theme, "", Type.BODY, wrap=True)
        self.outcomes = Chips(self.theme, tr("What follows"))
        self.outcomes.chosen.connect(self._chosen_outcome)
        self.stages = BeforeAfter(self.theme)
        self._next = NextUp("")
        self.why = label(self.theme, "", Type.BODY, wrap=True)
        self.adjust = button(self.theme, tr("Adjust it…"), self._begin_adjusting)
        self.go_on = button(self.theme, tr("Go on as a full run: its readings stay"), self._continue)
        self.cannot_adjust = label(self.theme, "", Type.CAPTION, "quiet", wrap=True)
        self.how_adjusted = HowAdjusted(self.desk.around, self.desk.open_run)
        self.second = Chips(self.theme, tr("Second person"))
        self.second.chosen.connect(self._ask_passphrases)
        self.second.chosen.connect(self.desk.offer)
        self._second_title = label(self.theme, tr("Second person"), Type.STRONG, "quiet")
        self.of_model = Chips(self.theme, tr("Kept for"))
        self.remark = EntryField(self.theme, tr("A remark for the record"), words_reader)
        self.passphrases = Passphrases(self.theme)
        self.passphrases.entered.connect(self._sign_now)
        self.amend = button(self.theme, tr("Amend this signed run…"), self._ask_amend, "link")
        self.to_sheet = button(self.theme, tr("To the tool's sheet"), self._to_sheet, "link")
        self.certificate = Certifying(self.desk)
        self.print = button(
            self.theme, tr("Print it… ({key_words})", key_words=key_words("print")), self._to_print, "link"
        )
        self.amend_why = EntryField(self.theme, tr("Why is it amended? The signed version stays"), words_reader)
        self.amend_why.given.connect(self._amend_now)
        self.amend_why.hide()
        self._people: tuple[PersonFacts, ...] = ()
        self.numbers = Numbers(self.theme, self.desk.around.work)
        self.sides = SidesView(self.theme)
        self.diary = DiaryView(self.desk)
        self.pulls = PullsView(self.theme, self.desk.around.work)
        self._set_out()

    def _set_out(self) -> None:
        said = row(self._mark, self.sentence, gap=3)
        said.setStretch(1, 1)
        what = column(self.outcomes, row(self.adjust, self.go_on, 1), gap=1)
        who = row(self._second_title, self.second, self.of_model, gap=2)
        who.setStretch(1, 1)
        who.setStretch(2, 1)
        after = QWidget()
        links = Flow(after)
        for link in (self.to_sheet, self.print, self.certificate.button, self.amend):
            links.addWidget(link)
        head = surface(
            column(
                said, self.why, self.beside, self._formal, self._caution, what, self.due, self.link, self.cannot_adjust,
                self.how_adjusted, who,
                self.passphrases, after, self.amend_why, gap=1, margin=3,
            )
        )  # fmt: skip
        content = QWidget()
        shown = (self.stages, self.diary, self.numbers, self.sides, self.pulls, self.remark)
        content.setLayout(column(*shown, 1, gap=2, margin=2))
        body = surface(column(scrolling(content)))
        layout = column(head, body, gap=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def show_run(self, run: RunState) -> None:
        fresh = self._run is None or self._run.id != run.id or self._run.adjusted != run.adjusted
        if fresh or (run.signed and self._run is not None and not self._run.signed):
            self._next = NextUp("")
            self._ask_next(run)
        self._run = run
        found = judged(run).verdict
        self._verdict = found
        if found is None:
            return
        if fresh:
            self.remark.clear()
            self.amend_why.hide()
        self._mark.setVisible(run.policy.judges)
        self._mark.show_state(found.state, mirrored=found.worst.budget.deviation < 0)
        sentence = saying(run, found)
        concluded = conclude(run) if run.policy.glance else None
        lead = f"{tr(concluded.says)}. " if concluded is not None else ""
        self.sentence.setText(f"{lead}{sentence}.")
        self.why.setText(f"{concluded.why[:1].upper()}{concluded.why[1:]}." if concluded is not None else "")
        self.why.setVisible(concluded is not None)
        self._formal.setText(
            tr("Each is the largest mean less the smallest over its places.")
            if run.policy.measures
            else tr(
                "A difference matters from a quarter of the limit on: {margin_of}.",
                margin_of=printing.limit(margin_of(run)),
            )
            if run.policy.beside_first
            else tr(
                "{formal}, by the rule “{rule_words}”.",
                formal=formal(found, run.rules.title, run.tool.unit),
                rule_words=rule_words(found.decision.rule),
            )
        )
        beside = beside_words(run)
        self.beside.setText(beside)
        self.beside.setVisible(bool(beside))
        self._say_caution(run, found)
        self._offer_outcomes(run, fresh)
        self._offer_adjusting(run)
        self._offer_people(run)
        self._say_due(run)
        self.stages.show_stages(*stages(run))
        self.stages.setVisible(bool(stages(run)[1]))
        self.numbers.setVisible(not run.policy.beside_first)
        self.diary.setVisible(run.policy.diary)
        self.sides.setVisible(run.policy.contrasts)
        if run.policy.contrasts:
            self.sides.show_run(run)
        elif run.policy.diary:
            self.diary.show_run(run)
        else:
            self.numbers.show_run(run, found, fresh=fresh)
        self.pulls.show_run(run)

    def _offer_outcomes(self, run: RunState, fresh: bool) -> None:
        self.choices = () if run.signed else choices(run, self.desk.around.today)
        if fresh or self.outcomes.one not in {c.outcome.value for c in self.choices}:
            first = [self.choices[0].outcome.value] if self.choices else []
            self.outcomes.offer([(c.outcome.value, c.words) for c in self.choices], first)
        self.outcomes.setVisible(len(self.choices) > 1)

    def _ask_next(self, run: RunState) -> None:
        """Once it is signed: what else is due and fits the reference that is set up."""
        reference, today = run.reference, self.desk.around.today
        if run.signed and reference is not None and run.signature is not None and run.signature.on == today:
            self.desk.around.work.look(
                call(next_up, reference, run.tool.id, today),
                lambda found: self._show_next(run.id, found),
            )

    def _show_next(self, run_id: int, found: NextUp) -> None:
        if self._run is not None and self._run.id == run_id:
            self._next = found
            self._say_due(self._run)
            self.desk.offer()

    def _offer_adjusting(self, run: RunState) -> None:
        person, found = self.desk.around.person, self._verdict
        may = "" if person is None else adjusting.why_not(run, person)
        wanted = not run.signed and run.policy.adjusts and found is not None and found.accepted is not True
        open_to = not run.signed and run.policy.adjusts and not may
        self.adjust.setVisible(open_to)
        set_tone(self.adjust, "" if wanted else "link")
        self.cannot_adjust.setText(may)
        self.cannot_adjust.setVisible(wanted and bool(may))
        self.how_adjusted.show_run(run, wanted=wanted)
        off = found is not None and not at_most(found.worst.decision.looked_at, found.worst.decision.limit)
        self.go_on.setVisible(not continuing.why_not(run))
        set_tone(self.go_on, "" if off else "link")

    def _offer_people(self, run: RunState) -> None:
        asked = run.rules.second_person and not run.signed
        self._second_title.setVisible(asked)
        self.second.setVisible(asked)
        if asked and not self._people:
            self.desk.around.work.look(people, self._show_people)
        keep = run.policy.measures and not run.signed
        self.of_model.setVisible(keep)
        if keep and not self.of_model.one:
            model = tr("every {maker} {model}", maker=run.tool.maker, model=run.tool.model)
            self.of_model.offer([(TOOL, tr("this tool")), (MODEL, model)], [TOOL])
        self.remark.setVisible(not run.signed)
        self._ask_passphrases()
        self.amend.setVisible(run.signed and not run.amended)
        self.to_sheet.setVisible(run.signed)
        self.certificate.show_run(run)
        self.print.setVisible(run.signed and run.policy.judges)

    def _show_people(self, found: tuple[PersonFacts, ...]) -> None:
        self._people = found
        me = self.desk.around.person
        beside = signing.second_people(found, me.id if me else 0)
        self.second.offer([(str(p.id), p.initials) for p in beside], [])

    def _chosen_outcome(self) -> None:
        if self._run is not None:
            self._say_due(self._run)
        self.desk.offer()

    def _say_caution(self, run: RunState, found: Verdict) -> None:
        words = undecided_words(run, found, judged(run).distrust)
        self._caution.setText(words)
        self._caution.setVisible(bool(words) and not run.signed)

    def _say_due(self, run: RunState) -> None:
        signature = run.signature
        if signature is not None:
            tail = signed_tail(signature.outcome)
            after = tr("Due again {due}.", due=day_words(signature.due)) if signature.due else tail
            beside = tr(" and {beside}", beside=signature.beside) if signature.beside else ""
            amended = tr("A later amendment replaces it.") if run.amended else ""
            words = tr("Signed by {by}{beside} on {on}.", by=signature.by, beside=beside, on=day_words(signature.on))
            away = tr(
                "Put it away: {lower}{putting_away}",
                lower=run.tool.putting_away[:1].lower(),
                putting_away=run.tool.putting_away[1:],
            )
            self.due.setText(
                " ".join(w for w in (words, after, amended, f"{away.rstrip('.')}.", self._next.words) if w)
            )
        else:
            chosen = next((c for c in self.choices if c.outcome.value == self.outcomes.one), None)
            self.due.setText(chosen.why if chosen else "")
        set_tone(self.due, "good" if run.signed else "")
        self.link.setText(tr("Its link in the chain of records: {link}", link=signature.link) if signature else "")
        self.link.setVisible(signature is not None and bool(signature.link))

    def action(self) -> Action | None:
        run, person = self._run, self.desk.around.person
        if run is None:
            return None
        back = self.desk.wishes.back
        if run.signed and back is not None:
            return Action(back.words, lambda: self._go_back(back))
        if run.signed and self._next.tools:
            card = self._next.tools[0]
            go = self.desk.around.go
            return Action(
                tr("{number} next", number=card.tool.number), lambda: go(Target(PlaceId.BENCH, tool=card.tool.id))
            )
        if run.signed:
            return Action(tr("To the tool's sheet"), self._to_sheet)
        if run.policy.diary and (next_step := self.diary.action()) is not None:
            return next_step
        if person is None:
            return Action(tr("Choose who signs"), allowed=False, why_not=tr("At the top right."))
        chosen = next((c for c in self.choices if c.outcome.value == self.outcomes.one), None)
        lacks = run.rules.second_person and not self.second.one
        return Action(
            tr(
                "{signing_verbs} as {initials}",
                signing_verbs=SIGNING_VERBS[chosen.outcome] if chosen else tr("Sign"),
                initials=person.initials,
            ),
            lambda: self._sign(run),
            allowed=not lacks,
            why_not=tr("Choose the second person first.") if lacks else "",
        )

    def _go_back(self, back: WayBack) -> None:
        """To where the test was asked for, with its answer."""
        self.desk.wishes.went_back()
        self.desk.around.go(back.target)

    def _to_print(self) -> None:
        """To its results in Records, the newest of them as it prints."""
        if self._run is not None:
            self.desk.around.go(Target(PlaceId.RECORDS, tool=self._run.tool.id))

    def _to_sheet(self) -> None:
        if self._run is not None:
            self.desk.around.go(Target(PlaceId.TOOLS, tool=self._run.tool.id))

    def _sign(self, run: RunState) -> None:
        outcome = Outcome(self.outcomes.one) if self.outcomes.one else None
        remark, second = self.remark.text, int(self.second.one) if self.second.one else None
        of_model, person = self.of_model.one == MODEL, self.desk.around.person
        if person is None or self.passphrases.missing():
            return
        act, (own, beside) = self.desk.around.act(), self.passphrases.take()
        signed = call(
            signing.sign,
            run.id,
            act,
            outcome,
            remark,
            second,
            of_model=of_model,
            passphrase=own,
            second_passphrase=beside,
        )
        self.desk.do(signed, told=self.passphrases.refuse)

    def _ask_passphrases(self) -> None:
        """Of who signs, and of who was chosen to stand beside."""
        run, person = self._run, self.desk.around.person
        if run is None or run.signed:
            self.passphrases.ask(None, None)
            return
        second = next((one for one in self._people if str(one.id) == self.second.one), None)
        self.passphrases.ask(person, second if run.rules.second_person else None)

    def _sign_now(self) -> None:
        action = self.action()
        if action is not None and action.allowed and action.call is not None:
            action.call()

    def _begin_adjusting(self) -> None:
        """Adjust at the point that is shown below: the worst unless another was chosen."""
        run, series = self._run, self.numbers.series
        if run is not None and series is not None:
            self.desk.do(call(adjusting.begin, run.id, series.id, self.desk.around.act()))

    def _continue(self) -> None:
        """The check becomes the tool's full run, which can be adjusted in."""
        run = self._run
        if run is not None:
            self.desk.around.work.ask(
                call(continuing.continue_in_full, run.id, self.desk.around.act()),
                lambda made: self.desk.open_run(made.id),
                lambda refusal: self.desk.fault(str(refusal)),
            )

    def _ask_amend(self) -> None:
        self.amend_why.setVisible(not self.amend_why.isVisible())
        self.amend_why.setFocus()

    def _amend_now(self, reason: object) -> None:
        run = self._run
        if run is None:
            return
        act = self.desk.around.act()
        self.desk.around.work.ask(
            call(amending.amend, run.id, str(reason), act),
            lambda amended: self.desk.open_run(amended.id),
            lambda refusal: self.amend_why.refuse(str(refusal)),
        )
