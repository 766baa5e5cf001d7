"""Labels at their true size: of the tools that words find, or of meters; looked at, saved, printed."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from pathlib import Path

from reckoner.core.translation import tr, tr_count
from reckoner.formats.files import write_whole
from reckoner.formats.papers.contents import Label, LabelSize
from reckoner.shop.papers.labels import MOST, labels_of, reference_labels, sizes, tool_labels
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.latest import LatestQuery
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, plain_reader, words_reader
from reckoner.ui.widgets.paper import Paper, print_paper
from reckoner.ui.widgets.text import label
from reckoner.ui.work import both, call

TOOLS, METERS = "tools", "meters"
NONE_FOUND = tr("No label: these words find nothing. A number, held, due next month, or a place find tools.")
NONE_YET = {
    TOOLS: tr("There is no tool yet. Add one under Tools, and its label stands here."),
    METERS: tr("There is no meter yet. Add one under References, and its label stands here."),
}
HOW = tr(
    "Print at 100 %, without fitting to the page. The sizes stand under Tools, Shop: 50 x 25 for "
    "a label printer, A4: 3 x 8 of 70 x 35 for a sheet."
)


@dataclass(frozen=True)
class ShownLabels:
    """The labels on the paper: their document, and how many they are."""

    data: bytes
    count: int


class LabelsShelf(PlaceShelf):
    """What is asked for at the left, the labels as they print at the right."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        theme = around.theme
        self._labels: tuple[Label, ...] = ()
        self._tools: tuple[int, ...] = ()
        self._sizes: tuple[LabelSize, ...] = ()
        self.of = Chips(theme, tr("Labels of"))
        self.of.offer(((TOOLS, tr("Tools")), (METERS, tr("Meters"))), [TOOLS])
        self.of.chosen.connect(self.refresh)
        self.filter = EntryField(
            theme, tr("Which: a number, held, due next month"), words_reader, tr("such as due next month")
        )
        self.filter.line.textChanged.connect(lambda _text: self._typed())
        self.sizes = Chips(theme, tr("Size"))
        self.sizes.chosen.connect(self._draw)
        self.first = EntryField(theme, tr("First label on the sheet"), plain_reader(1, 500, ""), "1")
        self.first.line.textChanged.connect(lambda _text: self._draw())
        self.found = label(theme, "", Type.STRONG, wrap=True)
        self.paper = Paper(theme)
        self.button = PrimaryButton(theme, tr("Print…"))
        self.button.clicked.connect(self.print)
        self.save_button = button(theme, tr("Save as PDF…"), self._ask_where)
        self._asked, self._drawn = LatestQuery(around.work), LatestQuery(around.work)
        self._wanted, self._finding = 0, False
        self._shown: ShownLabels | None = None
        left = column(
            self.of, self.filter, label(theme, tr("Size"), Type.STRONG, "quiet"), self.sizes, self.first, self.found,
            label(theme, HOW, Type.CAPTION, "quiet", wrap=True), 1, gap=2, margin=2,
        )  # fmt: skip
        right = column(self.paper, row(self.save_button, 1), self.button, gap=1, margin=2)
        right.setStretch(0, 1)
        both = row(surface(left), surface(right), gap=2)
        both.setStretch(0, 4)
        both.setStretch(1, 6)
        self.setLayout(both)

    def arrive(self, text: str, tools: tuple[int, ...] = ()) -> None:
        """Those of the tools that ``text`` finds, or of some themselves."""
        self.of.choose(TOOLS)
        self._tools = tools
        self.filter.line.setText(text)
        self._tools = tools  # what is typed from now on asks otherwise
        self.refresh()

    def _typed(self) -> None:
        self._tools = ()
        self.refresh()

    def refresh(self) -> None:
        """Find the labels anew."""
        self._finding = True
        wanted = self._wait()
        text, of, today, tools = self.filter.text, self.of.one, self.around.today, self._tools

        if of != TOOLS:
            labels = call(reference_labels, text)
        elif tools:
            labels = call(labels_of, tools, today)
        else:
            labels = call(tool_labels, text, today)
        self._asked.look(both(call(sizes), labels), lambda found: self._show_labels(wanted, *found))

    def _wait(self) -> int:
        """Something else is wanted from now on: nothing is saved or printed until it is shown."""
        self._wanted += 1
        self._shown = None
        for control in (self.button, self.save_button):
            control.setEnabled(False)
        return self._wanted

    def _show_labels(self, wanted: int, there: tuple[LabelSize, ...], found: tuple[Label, ...]) -> None:
        if wanted != self._wanted:
            return
        self._finding = False
        if there != self._sizes:
            self._sizes = there
            self.sizes.offer([(str(i), size.name) for i, size in enumerate(there)], ["0"])
        self._labels = found
        many = tr_count("One label", "{n} labels", len(found))
        self.found.setText(
            (tr("{many}, the first of them.", many=many) if len(found) == MOST else f"{many}.")
            if found
            else NONE_FOUND
            if self.filter.text.strip()
            else NONE_YET[self.of.one]
        )
        self._draw()

    def _draw(self) -> None:
        if not self._sizes or self._finding:  # what is found is drawn when it is
            return
        wanted, size = self._wait(), self._sizes[int(self.sizes.one)]
        self.first.setVisible(size.a_sheet > 1)
        if not self._labels:
            self.paper.show_document(b"")
            return
        place, labels = self._place(size), self._labels
        self._drawn.compute(
            partial(_document, labels, size, place),
            lambda data: self._show_paper(wanted, ShownLabels(data, len(labels))),
        )

    def _place(self, size: LabelSize) -> int:
        """Where on the sheet the first one stands; the beginning for what is none of its places."""
        text = self.first.text.strip()
        place = int(text) - 1 if text.isdecimal() else 0
        if size.a_sheet > 1 and text and not 0 <= place < size.a_sheet:
            self.first.refuse(tr("has to be from 1 to {a_sheet} on this sheet", a_sheet=size.a_sheet))
        return place if 0 <= place < size.a_sheet else 0

    def _show_paper(self, wanted: int, shown: ShownLabels) -> None:
        if wanted != self._wanted:
            return
        self._shown = shown
        self.paper.show_document(shown.data)
        for control in (self.button, self.save_button):
            control.setEnabled(True)

    def _ask_where(self) -> None:
        path = ask_where(
            self.around, self, FileKind.PAPER, tr("Save the labels"),
            tr("labels {today}.pdf", today=self.around.today), "PDF (*.pdf)",
        )  # fmt: skip
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Write what is shown."""
        shown = self._shown
        if shown is None:
            return

        def write() -> None:
            write_whole(path, shown.data)

        many = tr_count("One label is", "{n} labels are", shown.count)
        self.around.work.compute(
            write, lambda _none: self.around.saved(tr("{many} in {path}.", many=many, path=path), path)
        )

    def primary(self) -> None:
        if self.button.isEnabled():
            self.print()

    def print(self) -> None:
        """Print what is shown, by the desktop's own dialog."""
        if self._shown is not None and print_paper(self.paper):
            self.around.say(tr("They are on their way to the printer."))


def _document(labels: tuple[Label, ...], size: LabelSize, place: int) -> bytes:
    from reckoner.formats.papers.labels_pdf import labels_pdf  # only when it is wanted

    return labels_pdf(labels, size, place)
