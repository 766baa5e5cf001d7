"""Scan, gather, go: a tool is scanned at the left and something is done with it; what is out stands in the list at the
right.

The tools that were scanned at the desk, and go out together.
"""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.desk import ToolAway
from reckoner.ui.latest import LatestQuery, OneAtATime
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import Target
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.text import label

WIDE = 46 * GRID


class ScanShelf(PlaceShelf):
    """``out`` is what is out now; ``instead`` offers what could go in a tool's place. Subclasses ``stack`` their panels in
    the middle, and say what a scan, a choice in the list and the primary button do."""

    def __init__(self, around: Surroundings, listed: str) -> None:
        super().__init__(around)
        self._asking, self._doing = LatestQuery(around.work), OneAtATime(around.work)
        self.out: tuple[ToolAway, ...] = ()
        theme = around.theme
        self.scan = EntryField(theme, tr("Scan a tool, or type its number"), words_reader, tr("such as 0417"))
        self.scan.given.connect(lambda _value: self.scanned())
        self.refused = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.instead = Chips(theme, tr("Instead"))
        self.instead.chosen.connect(lambda: self.take(self.instead.one))
        self.ways_on = Chips(theme, tr("What can be done about it"))
        self.ways_on.chosen.connect(self._go_on)
        self._ways: dict[str, Target] = {}
        self.panels = QStackedWidget()
        self.missing = label(theme, " ", Type.BODY, "quiet")
        self.button = PrimaryButton(theme, "")
        self.button.clicked.connect(self.primary)
        foot = column(self.missing, self.button, gap=1)
        left = column(
            self.scan, self.refused, self.instead, self.ways_on, scrolling(self.panels), foot, gap=2, margin=2
        )  # fmt: skip
        left.setStretch(4, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.title = label(theme, "", Type.LEAD)
        self.list = LinesList(theme, listed, 500)
        self.list.changed.connect(self._chosen)
        right = column(self.title, self.list, gap=1, margin=2)
        right.setStretch(1, 1)
        self.setLayout(row(paper, surface(right), gap=2))
        self.refuse("")

    def stack(self, *panels: QWidget) -> None:
        """Put them into the middle, one on the other."""
        for panel in panels:
            self.panels.addWidget(panel)

    def primary(self) -> None:
        """Do with what was scanned what the button says."""
        raise NotImplementedError

    def scanned(self) -> None:
        """Find what stands in the scan."""
        raise NotImplementedError

    def bring(self, out: ToolAway) -> None:
        """Something in the list was chosen."""
        raise NotImplementedError

    def take(self, number: str) -> None:
        """A tool was named elsewhere."""
        self.scan.line.setText(number)
        self.scanned()

    def show_out(self, found: tuple[ToolAway, ...], title: str) -> None:
        """What is out now, under a ``title``."""
        self.out = found
        self.title.setText(title)
        lines = [(i, one, one.card.tool) for i, one in enumerate(found)]
        self.list.lines.show(
            tuple(
                ListLine(("", i), t.id, f"{t.number}  {o.to}", o.words, t.range_text, o.card.state, marked=True)
                for i, o, t in lines
            )
        )

    def refuse(
        self, words: str, others: tuple[tuple[str, str], ...] = (), ways: dict[str, Target] | None = None
    ) -> None:
        """Why it does not go, as (number, words) what could go instead, and the ``ways`` on by their words; empty: nothing is
        against it."""
        self._ways = ways or {}
        self.ways_on.offer([(words, words) for words in self._ways], [])
        self.ways_on.setVisible(bool(self._ways))
        self.refused.setText(tr("{words} Instead:", words=words) if others else words)
        self.refused.setVisible(bool(words))
        self.instead.offer(others, [])
        self.instead.setVisible(bool(others))

    def _go_on(self) -> None:
        goal = self._ways[self.ways_on.one]
        self.refuse("")
        self.around.go(goal)

    def offer(self, words: str, why_not: str = "") -> None:
        """What the primary button does, and what stands in its way; empty: nothing does."""
        self.button.say(words)
        self.button.setEnabled(not why_not)
        self.missing.setText(why_not or " ")  # its room stays

    def said_no(self, refusal: Refused) -> None:
        """The shop refused."""
        self.refuse(str(refusal))

    def _chosen(self) -> None:
        chosen = self.list.chosen
        found = next((o for o in self.out if chosen and o.card.tool.id == chosen[0].id), None)
        if found is not None:
            self.bring(found)


class Basket(Chips):
    """A chip for each tool, in the order in which they came; a press takes it out again, and is told by ``chosen()``."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__(theme, name, several=True)
        self.tools: dict[int, ToolCard] = {}
        self.chosen.connect(self._take_out)

    def put(self, *tools: ToolCard) -> None:
        """Tools that go as well."""
        self._hold(self.tools | {one.tool.id: one for one in tools})

    def clear(self) -> None:
        """None goes."""
        self._hold({})

    def _take_out(self) -> None:
        kept = {int(key) for key in self.on}
        self._hold({tool_id: one for tool_id, one in self.tools.items() if tool_id in kept})

    def _hold(self, tools: dict[int, ToolCard]) -> None:
        self.tools = tools
        on = [(str(tool_id), f"{one.tool.number}  ×") for tool_id, one in tools.items()]
        self.offer(on, [key for key, _ in on])
