"""The first opening of a shop of one's own: who you are, what you test with, the first tool; then its first run."""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QProcess
from PyQt6.QtWidgets import QSizePolicy, QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.translation import tr
from reckoner.shop.planning.agenda import Beginning, OpeningStage
from reckoner.shop.register import adding
from reckoner.shop.register.adding import ToolsDraft
from reckoner.shop.register.editing import Command
from reckoner.shop.register.gear import add_scale_on_a_hook, add_weights
from reckoner.ui.files import FileKind, ask_which
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.register.newmeter import NewGauge, NewMeter, NewWeights
from reckoner.ui.register.newmodel import NewModel
from reckoner.ui.register.people import NewPerson
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import words_reader
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.form import Form, FormFoot
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call

ASKED = {
    OpeningStage.WHO: (tr("Who are you?"), tr("That is me")),
    OpeningStage.WITH_WHAT: (tr("What do you test with?"), tr("Test with it")),
    OpeningStage.FIRST_TOOL: (tr("The first tool"), tr("Put it on the bench")),
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


class FirstTool(Form[ToolsDraft]):
    """The first tool: its model, and what it is called."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.model = NewModel(theme, with_names=False)
        self.include(self.model)
        self.number = self.field("number", tr("What you call it"), words_reader, tr("such as T-001"), wide=24)
        self.number.line.setText("T-001")
        self.setLayout(column(self.model, self.number, gap=1))

    def value(self) -> ToolsDraft:
        """Raises InputRefused with what is missing."""
        model = self.model.value()
        if not self.number.text.strip():
            raise InputRefused("number", "", tr("Give the tool a number."))
        return ToolsDraft((" ".join(self.number.text.split()),), None, model)


class FirstOpening(QWidget):
    """Shown in Today's place until the register holds a tool. Each answer is kept at once, so that an opening which is
    interrupted goes on where it stopped."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        theme = around.theme
        self.stage = OpeningStage.WHO
        self.person = NewPerson(theme, own_account=True)
        self.meter, self.weights, self.gauge = NewMeter(theme, around.today), NewWeights(theme), NewGauge(theme)
        self.with_what = Chips(theme, ASKED[OpeningStage.WITH_WHAT][0])
        self.with_what.offer(
            [
                (METER, tr("A torque meter")),
                (WEIGHTS, tr("Known weights, on its own lever")),
                (GAUGE, tr("A hanging scale")),
            ],
            [METER],
        )
        self.with_what.chosen.connect(self._update_state)
        self._means: dict[str, tuple[Form[Any], Callable[..., Command]]] = {
            METER: (self.meter, adding.add_meter),
            WEIGHTS: (self.weights, add_weights),
            GAUGE: (self.gauge, add_scale_on_a_hook),
        }
        self.tool = FirstTool(theme)
        means = QWidget()
        means.setLayout(column(self.with_what, *(form for form, _add in self._means.values()), gap=2))
        self.forms: dict[OpeningStage, QWidget] = {
            OpeningStage.WHO: self.person,
            OpeningStage.WITH_WHAT: means,
            OpeningStage.FIRST_TOOL: self.tool,
        }
        self.heads = {stage: StepHead(theme, i + 1, ASKED[stage][0]) for i, stage in enumerate(self.forms)}
        asked = (self.person, self.meter, self.weights, self.gauge, self.tool)
        self.foot = FormFoot(theme, "", self.primary, *asked)
        self.button = self.foot.button
        for form in asked:
            form.changed.connect(self._update_state)
        body = QWidget()
        self._asked = label(theme, "", Type.TITLE)
        body.setLayout(column(self._asked, *self.forms.values(), 1, gap=2, margin=3))
        title = label(theme, tr("A shop of your own"), Type.HEADLINE)
        words = label(theme, tr("Three answers, then the first run. Everything else has a sensible value and can wait."),
                      Type.BODY, "quiet", wrap=True)  # fmt: skip
        line = flow(*self.heads.values(), gap=4)
        main = column(column(title, words, gap=0), line, surface(column(scrolling(body))), self.foot, gap=2)
        main.setStretch(2, 1)
        layout = row(main, self._otherwise(), gap=3)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def _otherwise(self) -> QWidget:
        """The other ways to begin."""
        theme = self._around.theme
        ways = (
            (tr("Look at the invented demo"), self._demo,
             tr("An invented cableway's workshop with years of history, in a window of its own.")),
            (tr("Bring a spreadsheet…"), self._spreadsheet,
             tr("Tools from your own list, CSV or a workbook; say who you are first.")),
            (tr("Read a register file in…"), self._read_in,
             tr("People, models, tools and references from a TOML file, as docs/file-formats.md describes.")),
        )  # fmt: skip
        made = QWidget()
        made.setMinimumWidth(30 * GRID)
        made.setSizePolicy(QSizePolicy.Policy.Minimum, QSizePolicy.Policy.Preferred)
        shown = [
            part
            for words, call, told in ways
            for part in (button(theme, words, call), label(theme, told, Type.CAPTION, "quiet", wrap=True))
        ]
        made.setLayout(column(label(theme, tr("Or"), Type.LEAD), *shown, 1, gap=1))
        return made

    def show_beginning(self, found: Beginning) -> None:
        """Open the step that is to be answered."""
        before, self.stage = self.stage, found.stage
        answers = {OpeningStage.WHO: found.person, OpeningStage.WITH_WHAT: found.reference}
        for stage, form in self.forms.items():
            form.setVisible(stage is found.stage)
            self.heads[stage].show_as(now=stage is found.stage, answer=answers.get(stage, ""))
        self._asked.setText(ASKED[found.stage][0])
        if before is not found.stage:
            self.setFocus()
        self._update_state()
        if before is not found.stage or found.stage is OpeningStage.WHO:
            self.form.begin_typing()

    @property
    def form(self) -> Form[Any]:
        """What is asked now."""
        if self.stage is OpeningStage.WITH_WHAT:
            return self._means[self.with_what.one][0]
        return self.person if self.stage is OpeningStage.WHO else self.tool

    def primary(self) -> None:
        """Keep what was answered."""
        form, work = self.form, self._around.work
        given = form.given()
        if given is None:
            return
        if self.stage is OpeningStage.WHO:
            initials, name = given
            work.ask(call(adding.add_person, initials, name, None, self._around.now()), self._kept, form.refuse)
        elif self._around.person is None:
            self.foot.refuse(tr("Say who you are first."))
        elif self.stage is OpeningStage.WITH_WHAT:
            work.ask(call(self._means[self.with_what.one][1], given, self._around.act()), self._kept, form.refuse)
        else:
            work.ask(call(adding.add_tools, given, self._around.act()), self._to_the_bench, form.refuse)

    def _kept(self, command: Command) -> None:
        self._around.undo_stack.did(command)

    def _to_the_bench(self, made: tuple[tuple[int, ...], Command]) -> None:
        ids, command = made
        self._around.undo_stack.did(command)
        self._around.go(Target(PlaceId.BENCH, tool=ids[0]))

    def _refused(self, refusal: Refused) -> None:
        self.foot.refuse(str(refusal))

    def _update_state(self) -> None:
        """What the button says, and whether it can be pressed."""
        if self.stage is OpeningStage.READY:
            return
        for key, (form, _add) in self._means.items():
            form.setVisible(key == self.with_what.one)
        self.button.say(ASKED[self.stage][1])
        self.foot.lacks(self.form.missing())

    def _demo(self) -> None:
        """The demo has a folder of its own, and a window of its own."""
        if QProcess.startDetached(sys.executable, ["-m", "reckoner", "--demo"])[0]:
            self._around.say(tr("The demo opens in a window of its own; nothing in it touches this shop."))
        else:
            self.foot.refuse(tr("The demo could not be started. Try it in a terminal: reckoner --demo"))

    def _spreadsheet(self) -> None:
        """Tools from a spreadsheet, under Tools."""
        if self._around.person is None:
            self.foot.refuse(tr("Say who you are first; whoever brings it in stands on the record."))
        else:
            self._around.go(Target(PlaceId.TOOLS, bring_in=True))

    def _read_in(self) -> None:
        title, endings = tr("Read a register file in"), "Register files (*.toml)"
        if (path := ask_which(self._around, self, FileKind.REGISTER, title, endings)) is not None:
            self.read_in(path)

    def read_in(self, path: Path) -> None:
        """Take a register file in: all of it or nothing."""
        from reckoner.shop.register import registerfile  # loads pydantic
        from reckoner.shop.register.intake import take_in

        now, person = self._around.now(), self._around.person
        act = self._around.act() if person is not None else None

        def read(tables: dict[str, Any]) -> None:
            self._around.work.ask(
                call(take_in, registerfile.validate(tables, path.name), now, act, path.name),
                lambda taken: self._around.say(str(taken)),
                self._refused,
            )

        self._around.work.read_file(registerfile.read_tables, path, done=read, refused=self._refused)
