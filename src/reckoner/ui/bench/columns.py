"""The two columns beside the middle of the bench: steps and meter at the left, fences and the primary button at the right.

The column of steps with what each already holds.
"""

from __future__ import annotations

from PyQt6.QtCore import QPointF, QRectF, QSize, QStandardPaths, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QPolygonF, QResizeEvent
from PyQt6.QtWidgets import QFileDialog, QSizePolicy, QWidget

from reckoner.core.quantities.printing import fixed
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.register.sheet import ToolSheet, sheet
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.comparisons import saying
from reckoner.ui import actions
from reckoner.ui.bench.fences import Fences, LastTime
from reckoner.ui.bench.panel import Action
from reckoner.ui.bench.presenter import BenchPresenter
from reckoner.ui.bench.setup.setupsheet import SetUpSheetLinks
from reckoner.ui.layout import column, empty, row, surface
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.flow import flow
from reckoner.ui.widgets.tag import Tag
from reckoner.ui.widgets.text import label, set_tone, tip
from reckoner.ui.work import call

ROW, NARROW_ROW = 7 * GRID, 4 * GRID
"""How far apart steps stand, and how near they may."""

WIDE = 28 * GRID
"""From this width on what can be heard stands in one line."""

TITLES = {
    Step.LOOK_OVER: tr("Look over"),
    Step.SET_UP: tr("Set up"),
    Step.AS_IT_CAME: tr("As it came"),
    Step.EXERCISE: tr("Exercise"),
    Step.AS_FOUND: tr("As found"),
    Step.ADJUST: tr("Adjust"),
    Step.AS_LEFT: tr("As left"),
    Step.DECIDE: tr("Decide and sign"),
}


def titles(run: RunState) -> dict[Step, str]:
    """The steps that this run has, by title: adjusting and as left only once they were begun."""
    shown = dict(TITLES)
    if not run.came:
        del shown[Step.AS_IT_CAME]
    if not run.adjusting and not run.adjusted:
        del shown[Step.ADJUST], shown[Step.AS_LEFT]
    shown[Step.AS_FOUND] = run.policy.step
    return shown


def holds(run: RunState, step: Step) -> str:
    """What a step already holds, in a few words."""
    match step:
        case Step.LOOK_OVER:
            seen = sum(line.settled for line in run.inspection)
            remarks = sum(line.fine is False for line in run.inspection)
            return tr("{seen} of {count}", seen=seen, count=len(run.inspection)) + (
                tr(", {remarks} accepted", remarks=remarks) if remarks else tr(" fine") if seen else ""
            )
        case Step.SET_UP:
            return _set_up(run)
        case Step.AS_IT_CAME:
            return _taken(run.came)
        case Step.EXERCISE:
            return tr(
                "{count} of {count_2} at full scale",
                count=sum(e.done for e in run.exercise),
                count_2=sum(e.wanted for e in run.exercise),
            )
        case Step.AS_FOUND:
            return _taken(run.found)
        case Step.ADJUST:
            if run.adjusting:
                turns = run.adjusting.turns
                return tr("{turns} turns so far", turns=fixed(turns, 3, sign=True)) if turns else tr("not turned yet")
            return tr("{adjusted} done", adjusted=run.adjusted) if run.adjusted else ""
        case Step.AS_LEFT:
            return _taken(run.left) if run.left else ""
        case Step.DECIDE:
            return tr("signed") if run.signed else ""
        case Step.SIGNED:
            return ""


def _set_up(run: RunState) -> str:
    said = []
    if run.reference:
        said.append(run.reference.number)
    if run.room:
        said.append(run.tool.own_units.temperature_words(run.room.temperature))
    elif run.room_said:
        said.append(tr("room not measured"))
    if run.zeros.before is not None:
        said.append(tr("zero taken"))
    return ", ".join(said)


def _taken(series: tuple[SeriesState, ...]) -> str:
    return tr(
        "{count} of {count_2} readings", count=sum(len(s.pairs) for s in series), count_2=sum(s.wanted for s in series)
    )


class StepColumn(QWidget):
    """Dots on a line: done (tick), now (ring and bold), to come (hollow)."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._run: RunState | None = None
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Maximum)
        self.setMinimumHeight(NARROW_ROW * len(TITLES))
        theme.changed.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(24 * GRID, ROW * len(TITLES))

    def show_run(self, run: RunState | None) -> None:
        self._run = run
        if run is not None:
            self.setAccessibleName(tr("Step: {get}", get=titles(run).get(run.step, tr("signed"))))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        run = self._run
        if run is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = 1.5 * GRID
        painter.setPen(self._theme.pen("line", 2))
        shown = titles(run)
        painter.drawLine(QPointF(x, 2 * GRID), QPointF(x, 2 * GRID + self._row() * (len(shown) - 1)))
        order = [*shown, Step.SIGNED]
        now = order.index(run.step)
        for i, (step, title) in enumerate(shown.items()):
            self._one(painter, QPointF(x, 2 * GRID + i * self._row()), title, holds(run, step), i - now)

    def _row(self) -> int:
        """Rows stand closer where there is little room for them."""
        count = len(titles(self._run)) if self._run is not None else len(TITLES)
        return max(NARROW_ROW, min(ROW, self.height() // count))

    def _one(self, painter: QPainter, at: QPointF, title: str, held: str, ahead: int) -> None:
        theme = self._theme
        if ahead < 0:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("inside"))
            painter.drawEllipse(at, 7, 7)
            painter.setPen(QPen(theme.color("surface"), 2))
            painter.drawPolyline(QPolygonF([at + QPointF(-3, 0), at + QPointF(-1, 3), at + QPointF(4, -3)]))
        elif ahead == 0:
            painter.setPen(QPen(theme.color("accent"), 2))
            painter.setBrush(theme.color("ground"))
            painter.drawEllipse(at, 9, 9)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("accent"))
            painter.drawEllipse(at, 5, 5)
        else:
            painter.setPen(QPen(theme.color("quiet"), 2))
            painter.setBrush(theme.color("ground"))
            painter.drawEllipse(at, 6, 6)
        box = QRectF(at.x() + 2.5 * GRID, at.y() - 1.5 * GRID, self.width() - at.x() - 3 * GRID, 3 * GRID)
        painter.setFont(theme.font(Type.STRONG if ahead == 0 else Type.BODY))
        painter.setPen(theme.color("ink" if ahead <= 0 else "quiet"))
        painter.drawText(box, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, title)
        font = theme.font(Type.CAPTION)
        painter.setFont(font)
        painter.setPen(theme.color("quiet"))
        shown = QFontMetrics(font).elidedText(held, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(
            box.translated(0, 2.25 * GRID), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, shown
        )


class LeftColumn(QWidget):
    """The tool's tag, the steps, the meter, what is heard, and giving the run up."""

    def __init__(self, theme: Theme, presenter: BenchPresenter) -> None:
        super().__init__()
        self._theme = theme
        self._presenter = presenter
        self.steps = StepColumn(theme)
        self._tag_holder = column()
        self._meter_title = label(theme, tr("Meter"), Type.STRONG)
        self.meter_words = label(theme, tr("Chosen at set up."), Type.CAPTION, "quiet", wrap=True)
        self.connect_button = button(theme, tr("Connect"), presenter.connect_again, "link")
        self.connect_button.hide()
        self._mute = button(theme, "", presenter.sounds.toggle, "link")
        self._speech = button(theme, "", presenter.speech.toggle, "link")
        self._speech.setToolTip(tip(actions.tooltip("speech")))
        self.give_up = button(theme, tr("Give this run up…"), self.ask_give_up, "link")
        self.sheet = SetUpSheetLinks(presenter.around)
        self.give_up_why = EntryField(theme, tr("Why is it given up?"), words_reader)
        self.give_up_why.given.connect(lambda _reason: self._give_up_now())
        self.hold = button(theme, tr("Give up and hold the tool"), lambda: self._give_up_now(hold=True))
        self._giving_up = QWidget()
        self._giving_up.setLayout(
            column(self.give_up_why, row(button(theme, tr("Give up"), self._give_up_now), 1), row(self.hold, 1), gap=1)
        )
        self._giving_up.hide()
        words = flow(self._mute, self._speech, self.connect_button)
        meter = surface(column(self._meter_title, self.meter_words, words, gap=0, margin=2))
        last = column(row(self.give_up, 1), self.sheet, self._giving_up, gap=1)
        self.setLayout(column(self._tag_holder, self.steps, 1, meter, last, gap=2))
        presenter.meter.said.connect(self._meter_said)
        presenter.sounds.changed.connect(self._show_mute)
        presenter.speech.changed.connect(self._show_mute)
        presenter.tagged.connect(self._show_tag)
        self._show_mute()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """In a narrow column the steps have the room; speech has its key."""
        super().resizeEvent(event)
        self._speech.setVisible(self.width() >= WIDE)

    def show_run(self, run: RunState | None) -> None:
        """Without a run: nothing is on the bench yet."""
        self.steps.show_run(run)
        self.give_up.setVisible(run is not None and not run.signed)
        self.sheet.show_run(run)
        reference = run.reference if run is not None else None
        named = (
            tr("Meter")
            if reference is None
            else reference.number
            if reference.by_hand
            else tr("Meter {number}", number=reference.number)
        )
        self._meter_title.setText(named)
        if run is None:
            self._giving_up.hide()

    def show_no_tag(self) -> None:
        empty(self._tag_holder)

    def ask_give_up(self) -> None:
        """Ask why the run is given up; a second time takes the question back."""
        self._giving_up.setVisible(not self._giving_up.isVisible())
        self.give_up_why.setFocus()

    def _give_up_now(self, *, hold: bool = False) -> None:
        reason = self.give_up_why.text.strip()
        if not reason:
            self.give_up_why.refuse(tr("Say why in a few words."))
            self.give_up_why.setFocus()
            return
        self.give_up_why.clear()
        self._giving_up.hide()
        self._presenter.give_up(reason, hold=hold)

    def _meter_said(self, sentence: str, tone: str, may_connect: bool) -> None:
        self.meter_words.setText(sentence)
        set_tone(self.meter_words, tone)
        self.connect_button.setVisible(may_connect)

    def _show_mute(self) -> None:
        self._mute.setText(tr("Sound off") if self._presenter.sounds.muted else tr("Sound on"))
        self._speech.setText(tr("Speech on") if self._presenter.speech.on else tr("Speech off"))

    def _show_tag(self, found: ToolCard) -> None:
        around = self._presenter.around
        empty(self._tag_holder)
        tag = Tag(self._theme, found, around.today)
        tag.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)
        tag.clicked.connect(lambda: around.go(Target(PlaceId.TOOLS, tool=found.tool.id)))
        self._tag_holder.addWidget(tag)


class RightColumn(QWidget):
    """The fences (before the first reading how the tool was last time), how it stands so far, what cannot be done, and the
    primary button.

    ``save_to(path)``: where the readings go once their database has gone.
    """

    save_to = pyqtSignal(str)

    def __init__(self, theme: Theme, presenter: BenchPresenter) -> None:
        super().__init__()
        self._presenter = presenter
        self._number = ""
        self._asked: int | None = None
        self.fences = Fences(theme)
        self.last = LastTime(theme)
        self.last.hide()
        self.so_far = label(theme, "", Type.STRONG, wrap=True)
        self.button = PrimaryButton(theme)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.fault.hide()
        self.elsewhere = button(theme, tr("Save elsewhere…"), self._ask_where)
        self.elsewhere.setToolTip(tr("Save what was read on this run in a file of its own"))
        self.elsewhere.hide()
        foot = surface(column(self.so_far, self.fault, self.elsewhere, self.button, gap=2, margin=2))
        stack = column(surface(column(self.fences, self.last, margin=2)), foot, gap=2)
        stack.setStretch(0, 1)
        self.setLayout(stack)

    def show_run(self, run: RunState | None) -> None:
        if run is None:
            self.fences.show_nothing()
            self.so_far.setText("")
            self.elsewhere.hide()
            self._show_last(None)
            return
        self._number = run.tool.number
        self.fences.show_run(run)
        words, tone = _so_far(run)
        self.so_far.setText(words)
        set_tone(self.so_far, tone)
        self._ask_last(run)

    def _ask_last(self, run: RunState) -> None:
        """How it was last time, once a run. A short check shows only what it needs; after an event that is it."""
        short = run.policy.glance and not run.policy.compares
        if run.signed or short or any(s.observations for s in run.all_series):
            self._show_last(None)
        elif self._asked != run.id:
            self._asked, run_id, tool_id = run.id, run.id, run.tool.id
            self._presenter.around.work.look(
                call(sheet, tool_id),
                lambda found: self._show_last(found) if self._asked == run_id else None,
            )

    def _show_last(self, found: ToolSheet | None) -> None:
        if found is None:
            self._asked = None
        there = found is not None and self.last.show_sheet(found, self._presenter.around.today)
        self.last.setVisible(there)
        self.fences.setVisible(not there)

    def _ask_where(self) -> None:
        """Ask for a file, without stopping the rest of the window."""
        dialog = QFileDialog(self, tr("Save the readings elsewhere"))
        dialog.setOption(QFileDialog.Option.DontUseNativeDialog)
        dialog.setAcceptMode(QFileDialog.AcceptMode.AcceptSave)
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.setDirectory(QStandardPaths.writableLocation(QStandardPaths.StandardLocation.HomeLocation))
        dialog.selectFile(f"{self._number}-readings.csv")
        dialog.fileSelected.connect(self.save_to)
        dialog.open()

    def show_fault(self, sentence: str) -> None:
        self.fault.setText(sentence)
        self.fault.setVisible(bool(sentence))

    def show_action(self, action: Action | None) -> None:
        self.button.setVisible(action is not None)
        if action is not None:
            self.button.say(action.words, action.key)
            self.button.setEnabled(action.allowed)
            if action.why_not:
                self.button.setToolTip(tip(action.why_not))


def _so_far(run: RunState) -> tuple[str, str]:
    """How the run stands in words, and their tone."""
    done = all(s.missing == 0 for s in run.series)
    verdict = judged(run).verdict if run.policy.judges or done else None
    if verdict is None:
        taken, wanted = sum(len(s.pairs) for s in run.series), sum(s.wanted for s in run.series)
        return tr("{taken} of {wanted} readings taken", taken=taken, wanted=wanted), "quiet"
    accepted = verdict.accepted if run.policy.judges else None
    tone = "fault" if accepted is False else "good" if accepted else "quiet"
    return ("" if done else tr("So far: ")) + saying(run, verdict), tone
