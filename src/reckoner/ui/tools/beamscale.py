"""Marking a beam's scale anew: marks typed, the line through them, the print at its true size, and the blind repeat."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPlainTextEdit, QWidget

from reckoner.core.adjusting.beamscale import Mark
from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.ownunits import METRIC, OwnUnits, UnitSystem
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import MILLIMETRE, N_M, Kind, Unit
from reckoner.core.translation import tr
from reckoner.formats.files import write_whole
from reckoner.formats.papers.beamscale_pdf import ScalePage, scale_pdf
from reckoner.shop import beamscales
from reckoner.shop.beamscales import DRIFT, BeamPlan, KeptScale, straightness
from reckoner.ui.drawings.residuals import Residuals, ResidualsState
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, numbers_of, quantity_reader, torque_reader, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class BeamScaleSheet(QWidget):
    """Opened for one tool. Signal ``left()``."""

    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._tool, self._number, self._unit, self._own = 0, "", N_M, METRIC
        self.plan: BeamPlan | None = None
        self.kept: KeptScale | None = None
        theme = around.theme
        self.title = label(theme, "", Type.HEADLINE)
        self.marks = QPlainTextEdit()
        self.marks.setFont(theme.font(Type.FIGURE))
        self.marks.setAccessibleName(tr("Its marks, a line each"))
        self.marks.setTabChangesFocus(True)
        self.marks.setMinimumHeight(14 * GRID)
        self.marks.setMaximumHeight(20 * GRID)
        self.every = EntryField(theme, tr("A mark every"), torque_reader(N_M), tr("such as 5 N·m"))
        self.radius = EntryField(
            theme,
            tr("The pointer's length; empty: a straight rule"),
            quantity_reader(Kind.LENGTH, MILLIMETRE),
            tr("from where it turns"),
        )
        self.against = EntryField(theme, tr("The torques were made with"), words_reader)
        self.marks.textChanged.connect(self._update_state)
        for field in (self.every, self.radius, self.against):
            field.line.textChanged.connect(lambda _text: self._update_state())
        self.told = label(theme, "", Type.LEAD, wrap=True)
        self.residuals = Residuals(theme)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.keep = button(theme, tr("Keep this scale"), self.keep_it)
        self.print = button(theme, tr("Save it as a PDF…"), self._ask_where)
        self.repeat_words = label(
            theme,
            tr("The blind repeat: pull to a mark of the new scale without looking at the reference, then read it."),
            Type.BODY,
            wrap=True,
        )
        self.mark = EntryField(theme, tr("Pulled to the mark"), torque_reader(N_M))
        self.read = EntryField(theme, tr("The reference reads"), torque_reader(N_M))
        self.mark.awaits_number = self.read.awaits_number = True
        self.mark.given.connect(lambda _value: self.read.setFocus())
        self.read.given.connect(lambda _value: self.repeat())
        self.take = button(theme, tr("Keep the repeat"), self.repeat)
        self.repeats = label(theme, "", Type.LEAD, wrap=True)
        self._set_out(theme)

    def _set_out(self, theme: Theme) -> None:
        hint = tr(
            "Load it with known torques, with weights or against a meter, and measure where the pointer "
            "stands: a line for each mark, torque then place along the rule or the arc. Two marks are "
            "enough for a scale, three tell whether it is straight."
        )
        self._blind = QWidget()
        self._blind.setLayout(
            column(
                label(theme, tr("Its check"), Type.TITLE), self.repeat_words, row(self.mark, self.read, gap=2),
                row(self.take, 1), self.repeats, gap=1,
            )
        )  # fmt: skip
        content = QWidget()
        content.setLayout(
            column(
                row(self.title, 1, button(theme, tr("Leave it"), self.left.emit, "link")),
                label(theme, hint, Type.BODY, wrap=True), self.marks,
                row(self.every, self.radius, self.against, gap=2), self.told, self.residuals,
                label(theme, DRIFT, Type.BODY, "quiet", wrap=True), self.fault, row(self.keep, self.print, 1, gap=1),
                self._blind, 1, gap=1, margin=3,
            )
        )  # fmt: skip
        self.setLayout(column(surface(column(scrolling(content)))))

    def open_for(self, tool_id: int, tool: str, unit: Unit) -> None:
        """A tool; its newest scale stands there again."""
        self._tool, self._number, self._unit, self.kept = tool_id, tool, unit, None
        self._speak_in(OwnUnits(unit, UnitSystem.beside(unit)))
        self.title.setText(tr("The scale of {tool}", tool=tool))
        for field in (self.every, self.mark, self.read):
            field.read_with(torque_reader(unit))
            field.clear()
        for other in (self.radius, self.against):
            other.clear()
        self.marks.clear()
        self._update_state()
        self._around.work.browse(call(beamscales.newest, tool_id), self._show_kept)

    def _speak_in(self, own: OwnUnits) -> None:
        """Lengths are typed and told as they go with the scale's unit."""
        self._own, unit = own, own.torque
        torques = (quantity(unit.to_si(n), unit) for n in (20, 40, 60))
        places = (own.example(Kind.LENGTH, metres) for metres in (0.0125, 0.0254, 0.0375))
        self.marks.setPlaceholderText("\n".join(f"{t}   {at}" for t, at in zip(torques, places, strict=True)))
        self.radius.read_with(quantity_reader(Kind.LENGTH, own.length))
        hung = tr("{mass} at {length}", mass=own.example(Kind.MASS, 12), length=own.example(Kind.LENGTH, 0.42))
        self.against.line.setPlaceholderText(tr("such as PM-5, or {hung}", hung=hung))

    def _show_kept(self, kept: KeptScale | None) -> None:
        if kept is not None and kept.tool == self._number:
            self.kept, plan = kept, kept.plan
            self.marks.setPlainText(
                "\n".join(
                    f"{quantity(m.torque, plan.unit)}   {self._own.length_words(m.deflection)}" for m in plan.marks
                )
            )
            self.every.line.setText(quantity(plan.every, plan.unit))
            self.radius.line.setText("" if plan.radius is None else self._own.length_words(plan.radius))
            self.against.line.setText(plan.against)
            self._update_state()
        self._show_repeats()

    def _show_repeats(self) -> None:
        kept = self.kept
        self._blind.setVisible(kept is not None and kept.plan == self.plan)
        if kept is None:
            return
        worst = kept.worst
        lines = [
            tr(
                "{mark}: read {read}, {deviation}",
                mark=quantity(r.mark, self._unit),
                read=quantity(r.read, self._unit),
                deviation=percent(r.deviation, 1, sign=True),
            )
            for r in kept.repeats
        ]
        if worst is not None:
            lines.append(tr("Worst {worst} of {count}.", worst=percent(worst, 1, sign=True), count=len(kept.repeats)))
        self.repeats.setText("\n".join(lines))

    def _update_state(self) -> None:
        """What stands there, as far as it makes a scale."""
        self.plan, wrong = None, ""
        marks: list[Mark] = []
        for line in self.marks.toPlainText().splitlines():
            if not line.strip():
                continue
            try:
                marks.append(read_mark(line, self._unit, self._own.length))
            except InputRefused as refusal:
                wrong = f"“{line.strip()[:40]}”: {refusal.reason}."
                break
        self.fault.setText(wrong)
        scale = None
        if not wrong and len(marks) >= 2:
            try:
                given = self.every.value_or_none()
                every = given if given is not None else max(m.torque for m in marks) / 10
                radius = self.radius.value_or_none()
                plan = BeamPlan(tuple(marks), every, self._unit, radius, self.against.text)
                scale = plan.scale
                count = len(plan.graduations)
                self.plan = plan
            except InputRefused as refusal:
                self.fault.setText(f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.")
        self.residuals.setVisible(scale is not None and scale.worst_residual is not None)
        if scale is None or self.plan is None:
            self.told.setText("" if wrong else tr("Enter two marks or more."))
        else:
            slope = tr(
                "{slope} a {symbol}",
                slope=quantity(scale.slope * self._unit.to_si(1.0), self._own.length),
                symbol=self._unit.symbol,
            )
            if scale.worst_residual is None:
                how = straightness(scale)
            else:
                how = tr(
                    "The worst mark lies {worst_residual} of the full deflection off the line.",
                    worst_residual=percent(scale.worst_residual, 2),
                )
            self.told.setText(tr("{slope}; {count} marks. {how}", slope=slope, count=count, how=how))
            self.residuals.show_state(
                ResidualsState(tuple((m.torque, r) for m, r in zip(marks, scale.residuals, strict=True)), self._unit)
            )
        self.keep.setEnabled(self.plan is not None)
        self.print.setEnabled(self.plan is not None)
        self._show_repeats()

    def keep_it(self) -> None:
        """Keep the scale."""
        plan, tool = self.plan, self._tool
        if plan is None or self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right.") if plan is not None else "")
            return
        act = self._around.act()

        def kept(found: KeptScale) -> None:
            self._around.say(tr("The scale is kept. Now check it blind."))
            self._show_kept(found)
            self.mark.setFocus()

        self._around.work.ask(call(beamscales.keep, tool, plan, act), kept, self._refused)

    def _refused(self, refusal: Refused) -> None:
        fields: dict[str, EntryField[Any]] = {"every": self.every, "radius": self.radius, "against": self.against}
        at = fields.get(getattr(refusal, "field", ""))
        if at is not None:
            at.refuse(str(refusal))
            at.setFocus()
        else:
            self.fault.setText(str(refusal))

    def repeat(self) -> None:
        """Keep a blind repeat."""
        kept = self.kept
        if kept is None or self._around.person is None or (values := numbers_of(self.mark, self.read)) is None:
            return
        act = self._around.act()

        def done(found: KeptScale) -> None:
            self.kept = found
            for field in (self.mark, self.read):
                field.clear()
            self._show_repeats()
            self.mark.setFocus()

        self._around.work.ask(
            call(beamscales.repeat, kept.id, values[0], values[1], act),
            done,
            lambda refusal: self.read.refuse(str(refusal)),
        )

    def _ask_where(self) -> None:
        path = ask_where(
            self._around, self, FileKind.PAPER, tr("Save the scale"),
            tr("{number} scale.pdf", number=self._number), "PDF (*.pdf)",
        )  # fmt: skip
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Write the scale at its true size into a file."""
        plan = self.plan
        if plan is None:
            return
        page = ScalePage(
            tr("Scale of {number}", number=self._number),
            self._lines(plan),
            plan.graduations,
            plan.unit,
            plan.radius,
            self._own,
        )
        self._around.work.compute(
            lambda: write_whole(path, scale_pdf(page)),
            lambda _done: self._around.saved(
                tr("The scale is in {path}. Print it at 100 % and measure its line.", path=path), path
            ),
            lambda refusal: self.fault.setText(str(refusal)),
        )

    def _lines(self, plan: BeamPlan) -> tuple[str, ...]:
        """What is said of the scale on its paper."""
        made = self.kept.at if self.kept is not None and self.kept.plan == plan else None
        when = (
            tr("Made on {made} by {by}", made=day_words(made), by=self.kept.by)
            if made is not None and self.kept is not None
            else tr("Not kept yet")
        )
        residual = plan.scale.worst_residual
        how = straightness(plan.scale)
        if residual is not None:
            how = tr(
                "{count} marks; the worst lies {residual} of the full deflection off the line.",
                count=len(plan.marks),
                residual=percent(residual, 2),
            )
        return (tr("{when}, against {against}.", when=when, against=plan.against or "…"), how, DRIFT)


def read_mark(line: str, unit: Unit, length: Unit = MILLIMETRE) -> Mark:
    """A line with a torque, then a length; bare numbers are in ``unit`` and in ``length``. Raises InputRefused."""
    parts = [p for p in line.replace("\t", "  ").replace(";", "  ").split("  ") if p.strip()]
    if len(parts) != 2:
        parts = line.split()
        half = len(parts) // 2
        parts = [" ".join(parts[:half]), " ".join(parts[half:])] if len(parts) in (2, 4) else parts
    if len(parts) != 2:
        raise InputRefused("marks", line, tr("a mark is a torque and a length, such as 20 N·m  12.5 mm"))
    torque = read(parts[0], Kind.TORQUE, default=unit, field="torque")
    place = read(parts[1], Kind.LENGTH, default=length, field="deflection")
    return Mark(torque.si, place.si)
