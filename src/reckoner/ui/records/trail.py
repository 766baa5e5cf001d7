"""Who did what, when, to what: found by words, saved as a table."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr
from reckoner.shop.records.results import Place
from reckoner.shop.records.trail import PAGE, TrailLine, trail, trail_table
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

if TYPE_CHECKING:
    pass

NONE_YET = tr("Nothing was done yet. Every change of the shop leaves a line here, that nobody can take out unseen.")
NOTHING_FOUND = tr("No line has all these words.")


class TrailShelf(PlaceShelf):
    """One list, newest first."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._text = ""
        theme = around.theme
        self.filter = EntryField(
            theme, tr("Find: day, initials, station, what was done, to what"), words_reader, tr("such as struck 0417")
        )
        self.filter.line.textChanged.connect(lambda _text: self._filter())
        self.save_button = button(theme, tr("Save what is found…"), self._ask_where)
        self.list = LinesList(theme, tr("What was done"), PAGE)
        self.list.lines.wanted.connect(self._fetch)
        self.empty = label(theme, NONE_YET, Type.BODY, "quiet", wrap=True)
        head = row(self.filter, self.save_button, gap=2)
        head.setStretch(0, 1)
        layout = column(head, self.empty, self.list, gap=1, margin=2)
        layout.setStretch(2, 1)
        self.setLayout(column(surface(layout)))

    def refresh(self) -> None:
        """Read the list anew."""
        text = self._text
        self.around.work.look(call(trail, text), self._show_lines)

    def _show_lines(self, found: tuple[TrailLine, ...]) -> None:
        self.list.lines.show(tuple(_line(one) for one in found))
        self.empty.setText(NOTHING_FOUND if self._text else NONE_YET)
        self.empty.setVisible(not found)

    def _filter(self) -> None:
        text = self.filter.text.strip()
        if text != self._text:
            self._text = text
            self.refresh()

    def _fetch(self, before: Place) -> None:
        text = self._text
        self.around.work.look(
            call(trail, text, before),
            lambda found: self.list.lines.take(tuple(_line(one) for one in found)),
        )

    def _ask_where(self) -> None:
        path = ask_where(
            self.around, self, FileKind.TABLE, tr("Save what was done"),
            tr("what was done {today}.csv", today=self.around.today), "Spreadsheets (*.csv *.xlsx)",
        )  # fmt: skip
        if path is not None:
            self.save(path)

    def save(self, path: Path) -> None:
        """Write every line that the words find."""
        self.around.work.prepare(
            call(trail_table, self._text, path),
            lambda count: self.around.saved(tr("{count} lines are in {path}.", count=count, path=path), path),
        )


def _line(found: TrailLine) -> ListLine:
    who = ", ".join(words for words in (found.who, found.station) if words)
    who = f"{who}, " if who else ""
    return ListLine(
        place=found.place,
        id=found.place[1],
        lead=f"{found.subject}: {found.action}" if found.subject else found.action,
        detail=found.what or tr("nothing more was kept"),
        right=f"{who}{moment_words(found.at)}",
    )
