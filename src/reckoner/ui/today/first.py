"""The first opening of a shop of one's own: who you are, what you test with, the first tool; then its first run."""

from __future__ import annotations

import sys
from pathlib import Path

from PyQt6.QtCore import QProcess
from PyQt6.QtWidgets import QFileDialog, QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.shop.beginning import Beginning, Stage
from reckoner.shop.register import adding
from reckoner.shop.register.adding import GivenTools
from reckoner.shop.register.editing import Deed
from reckoner.shop.register.gear import add_scale_on_a_hook, add_weights
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.register.newmeter import NewMeter
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.register.newperson import NewPerson
from reckoner.ui.register.newweights import NewGauge, NewWeights
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call

ASKED = {
    Stage.WHO: ("Who are you?", "That is me"),
    Stage.WITH_WHAT: ("What do you test with?", "Test with it"),
    Stage.FIRST_TOOL: ("The first tool", "Put it on the bench"),
}
"""What a step asks, and what its button says."""


METER, WEIGHTS, GAUGE = "meter", "weights", "gauge"
"""What a shop tests with first."""


class StepHead(QWidget):
    """One of the three in the line above: its question, or what was answered."""

    def __init__(self, theme: Theme, number: int, title: str) -> None:
        super().__init__()
        self._title = title
        self.number = label(theme, str(number), Type.TITLE, "quiet")
        self.words = label(theme, title, Type.LEAD)
        self.setLayout(row(self.number, self.words, gap=1))

    def show_as(self, *, now: bool, answer: str) -> None:
        """What stands there: the question, in ink while it is asked, or the answer."""
        self.words.setText(f"✓ {answer}" if answer else self._title)
        set_tone(self.words, "good" if answer else "" if now else "quiet")
        set_tone(self.number, "" if now else "quiet")
        self.setAccessibleName(f"{self._title} {answer}".strip())


class FirstOpening(QWidget):
    """Shown in Today's place until the register holds a tool. Each answer is kept at once, so that an opening which is
    interrupted goes on where it stopped."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self.stage = Stage.WHO
        self.person = NewPerson(theme, own_account=True)
        self.meter = NewMeter(theme, around.today)
        self.weights, self.gauge = NewWeights(theme), NewGauge(theme)
        self.with_what = Chips(theme, ASKED[Stage.WITH_WHAT][0])
        self.with_what.offer(
            [(METER, "A torque meter"), (WEIGHTS, "Known weights, on its own lever"), (GAUGE, "A hanging scale")],
            [METER],
        )
        self.with_what.chosen.connect(self._look)
        self.model = NewModel(theme, with_names=False)
        self.number = EntryField(theme, "What you call it", words_reader, "such as T-001")
        self.number.line.setText("T-001")
        self.number.cap(24 * GRID)
        tool = QWidget()
        tool.setLayout(column(self.model, self.number, gap=1))
        means = QWidget()
        means.setLayout(column(self.with_what, self.meter, self.weights, self.gauge, gap=2))
        self.forms: dict[Stage, QWidget] = {Stage.WHO: self.person, Stage.WITH_WHAT: means, Stage.FIRST_TOOL: tool}
        self.heads = {stage: StepHead(theme, i + 1, ASKED[stage][0]) for i, stage in enumerate(self.forms)}
        for changed in (
            self.person.changed,
            self.meter.changed,
            self.weights.changed,
            self.gauge.changed,
            self.model.changed,
        ):
            changed.connect(self._look)
        self.number.line.textChanged.connect(lambda _text: self._look())
        self.person.given.connect(self.primary)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.missing = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.button = PrimaryButton(theme, "")
        self.button.setMinimumWidth(36 * GRID)
        self.button.clicked.connect(self.primary)
        body = QWidget()
        self._asked = label(theme, "", Type.TITLE)
        body.setLayout(column(self._asked, *self.forms.values(), 1, gap=2, margin=3))
        title = label(theme, "A shop of your own", Type.HEADLINE)
        words = label(theme, "Three answers, then the first run. Everything else has a sensible value and can wait.",
                      Type.BODY, "quiet")  # fmt: skip
        foot = row(column(1, self.fault, self.missing, 1, gap=0), self.button, gap=2)
        line = row(*self.heads.values(), 1, gap=4)
        main = column(column(title, words, gap=0), line, surface(column(scrolling(body))), foot, gap=2)
        main.setStretch(2, 1)
        layout = row(main, self._otherwise(), gap=3)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def _otherwise(self) -> QWidget:
        """The other ways to begin."""
        theme = self._around.theme
        made = QWidget()
        made.setFixedWidth(30 * GRID)
        made.setLayout(
            column(
                label(theme, "Or", Type.LEAD),
                button(theme, "Look at the invented demo", self._demo),
                label(theme, "An invented cableway's workshop with years of history, in a window of its own.", Type.CAPTION,
                      "quiet", wrap=True),
                button(theme, "Bring a spreadsheet…", self._spreadsheet),
                label(theme, "Tools from your own list, CSV or a workbook; say who you are first.",
                      Type.CAPTION, "quiet", wrap=True),
                button(theme, "Read a register file in…", self._read_in),
                label(theme, "People, models, tools and references from a TOML file, as docs/file-formats.md describes.",
                      Type.CAPTION, "quiet", wrap=True),
                1,
                gap=1,
            )
        )  # fmt: skip
        return made

    def show_beginning(self, found: Beginning) -> None:
        """Open the step that is to be answered."""
        before, self.stage = self.stage, found.stage
        answers = {Stage.WHO: found.person, Stage.WITH_WHAT: found.reference}
        for stage, form in self.forms.items():
            form.setVisible(stage is found.stage)
            self.heads[stage].show_as(now=stage is found.stage, answer=answers.get(stage, ""))
        self._asked.setText(ASKED[found.stage][0])
        if before is not found.stage:
            self.fault.setText("")
            self.setFocus()
        self._look()
        if found.stage is Stage.WHO:
            self.person.initials.setFocus()

    def primary(self) -> None:
        """Keep what was answered."""
        self.fault.setText("")
        try:
            {Stage.WHO: self._who, Stage.WITH_WHAT: self._with_what, Stage.FIRST_TOOL: self._tool}[self.stage]()
        except InputRefused as refusal:
            self.fault.setText(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}")

    def _who(self) -> None:
        initials, name, now = self.person.initials.text, self.person.name.text, self._around.now()
        if not initials.strip():
            self.person.initials.refuse("Give your initials; they stand on every record.")
            return
        self._around.work.ask(call(adding.add_person, initials, name, None, now), self._kept, self._refused)

    def _with_what(self) -> None:
        if self._around.person is None:
            return
        act = self._around.act()
        if self.with_what.one == WEIGHTS:
            stamps = tuple(self.weights.stamps)
            self._around.work.ask(call(add_weights, stamps, act), self._kept, self._refused)
        elif self.with_what.one == GAUGE and self.gauge.kilograms is not None:
            kilograms = self.gauge.kilograms
            self._around.work.ask(call(add_scale_on_a_hook, kilograms, act), self._kept, self._refused)
        else:
            given = self.meter.value()
            self._around.work.ask(call(adding.add_meter, given, act), self._kept, self._refused)

    def _tool(self) -> None:
        if not self.number.text.strip():
            raise InputRefused("number", "", "Give the tool a number.")
        given = GivenTools((" ".join(self.number.text.split()),), None, self.model.value())
        if self._around.person is not None:
            act = self._around.act()
            self._around.work.ask(call(adding.add_tools, given, act), self._to_the_bench, self._refused)

    def _kept(self, deed: Deed) -> None:
        self._around.deeds.did(deed)

    def _to_the_bench(self, made: tuple[tuple[int, ...], Deed]) -> None:
        ids, deed = made
        self._around.deeds.did(deed)
        self._around.go(Target(PlaceId.BENCH, tool=ids[0]))

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))

    def _look(self) -> None:
        """What the button says, and whether it can be pressed."""
        if self.stage is Stage.READY:
            return
        forms = {METER: self.meter, WEIGHTS: self.weights, GAUGE: self.gauge}
        for key, form in forms.items():
            form.setVisible(key == self.with_what.one)
        lacks = {
            METER: self.meter.why_not(),
            WEIGHTS: "" if self.weights.stamps else "Press at least one weight.",
            GAUGE: "" if self.gauge.kilograms is not None else "Press how far it goes.",
        }[self.with_what.one]
        why = {
            Stage.WHO: "" if self.person.initials.text.strip() else "Give your initials.",
            Stage.WITH_WHAT: lacks,
            Stage.FIRST_TOOL: "" if self.model.complete else self.model.said(),
        }[self.stage]
        self.button.say(ASKED[self.stage][1])
        self.button.setEnabled(not why)
        self.missing.setText(why)

    def _demo(self) -> None:
        """The demo has a folder of its own, and a window of its own."""
        if QProcess.startDetached(sys.executable, ["-m", "reckoner", "--demo"])[0]:
            self._around.say("The demo opens in a window of its own; nothing in it touches this shop.")
        else:
            self.fault.setText("The demo could not be started. Try it in a terminal: reckoner --demo")

    def _spreadsheet(self) -> None:
        """Tools from a spreadsheet, under Tools."""
        if self._around.person is None:
            self.fault.setText("Say who you are first; whoever brings it in stands on the record.")
        else:
            self._around.go(Target(PlaceId.TOOLS, bring_in=True))

    def _read_in(self) -> None:
        chosen, _kind = QFileDialog.getOpenFileName(self, "Read a register file in", "", "Register files (*.toml)")
        if chosen:
            self.read_in(Path(chosen))

    def read_in(self, path: Path) -> None:
        """Take a register file in: all of it or nothing."""
        from reckoner.shop.register import registerfile
        from reckoner.shop.register.intake import take_in

        now, person = self._around.now(), self._around.person
        act = self._around.act() if person is not None else None

        def read(register: registerfile.Register) -> None:
            self._around.work.ask(
                call(take_in, register, now, act, path.name),
                lambda taken: self._around.say(str(taken)),
                self._refused,
            )

        self._around.work.compute(lambda: registerfile.load(path), read, self._refused)
