"""Taking what a meter or a tool has stored as readings of a run: columns chosen, shown where they go, taken together."""

from __future__ import annotations

from reckoner.core.quantities.printing import quantity
from reckoner.core.quantities.units import Unit
from reckoner.core.translation import tr
from reckoner.shop.runs import taking
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import torque_figure
from reckoner.ui.bench.panel import BenchAccess
from reckoner.ui.files import SHOWN, ValuesFile
from reckoner.ui.layout import column, row
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call


class Stored(ValuesFile):
    """The meter's column, and where each pull is two numbers the tool's."""

    def __init__(self, desk: BenchAccess) -> None:
        super().__init__(desk.around, tr("the meter"))
        self._desk = desk
        self._run: RunState | None = None
        theme = desk.around.theme
        self.meter = Chips(theme, tr("The meter's column"))
        self.tool = Chips(theme, tr("The tool's column"))
        for chips in (self.meter, self.tool):
            chips.chosen.connect(self._say)
        self._tool_title = label(theme, tr("The tool showed"), Type.STRONG, "quiet")
        self.told = label(theme, "", Type.BODY, wrap=True)
        self.take_button = button(theme, tr("Take them in this order"), self.take)
        self.setLayout(
            column(
                label(theme, tr("The meter read"), Type.STRONG, "quiet"), self.meter, self._tool_title, self.tool, self.told,
                row(self.take_button, button(theme, tr("Leave them"), lambda: self._open(on=False), "link"), 1, gap=2), gap=1,
            )
        )  # fmt: skip

    def show_run(self, run: RunState) -> None:
        """Of another run, what was chosen before is over."""
        if self._run is None or self._run.id != run.id or run.current is None:
            self._open(on=False)
        self._run = run
        self.button.setVisible(run.current is not None and run.procedure.one_pull_tells)

    def unit(self) -> Unit | None:
        return self._run.tool.unit if self._run is not None else None

    def _refuse(self, words: str) -> None:
        self._desk.fault(words)

    def _found(self) -> None:
        self._offer(self.meter)
        self._offer(self.tool, 1)
        for widget in (self.tool, self._tool_title):
            widget.setVisible(self._run is not None and self._run.paired)
        self._say()

    def _say(self) -> None:
        """What would be taken, and where it would go."""
        run, chosen = self._run, self._column(self.meter)
        if run is None or chosen is None:
            return
        values = ", ".join(torque_figure(run, torque) for _line, torque in chosen.values[:SHOWN])
        more = " …" if len(chosen.values) > SHOWN else ""
        goes = taking.fills(run, len(chosen.values))
        where = ", ".join(
            tr("{count} at {target}", count=count, target=quantity(target, run.tool.unit)) for target, count in goes
        )
        taken = sum(count for _target, count in goes)
        left = (
            tr("; {count} are over and are left", count=len(chosen.values) - taken)
            if taken < len(chosen.values)
            else ""
        )
        first = quantity(chosen.values[0][1], run.tool.unit)
        read = tr("read in {read_in}; the first is {first}", read_in=self._read_in(chosen), first=first)
        self.told.setText(
            tr(
                "{values}{more} ({read}). They go: {where}{left}.",
                values=values,
                more=more,
                read=read,
                where=where,
                left=left,
            )
        )
        self.take_button.setText(tr("Take {taken} in this order", taken=taken))

    def take(self) -> None:
        """All of them, or none."""
        run, meter, tool = self._run, self._column(self.meter), self._column(self.tool)
        if run is None or meter is None or tool is None:
            return
        self._desk.do(
            call(taking.take, run, meter.values, tool.values, self._desk.around.act()),
            done=lambda: self._open(on=False),
            refused=self._desk.fault,
        )
