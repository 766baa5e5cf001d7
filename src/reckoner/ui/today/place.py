"""The Today place: one next thing, large; below it the day's lists as tags with their reasons."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent, QResizeEvent
from PyQt6.QtWidgets import QGridLayout, QVBoxLayout, QWidget

from reckoner.shop.agenda import Agenda, Item, agenda
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.layout import column, empty, row, scrolling, surface
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import GRID, Type
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.tag import TAG_SIZE, Tag
from reckoner.ui.widgets.text import ElidedLabel, label

CARES = (ChangeKind.STANDINGS, ChangeKind.TOOLS, ChangeKind.MODELS)
"""The changes that touch what is shown here."""


class TodayPlace(Place):
    """Tags are in one tab order; arrow keys move among them; Enter on a tag opens it, else does the next thing."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._agenda: Agenda | None = None
        self.tags: list[Tag] = []
        self.headline = label(self.theme, "", Type.HEADLINE)
        self.summary = label(self.theme, "", Type.BODY, "quiet")
        self.next_title = label(self.theme, "", Type.TITLE, wrap=True)
        self.next_why = label(self.theme, "", Type.BODY, "quiet", wrap=True)
        self._next_tag = column()
        self.button = PrimaryButton(self.theme, "Put on the bench")
        self.button.clicked.connect(self.primary)
        self.button.setMinimumWidth(32 * GRID)
        what = row(self._next_tag, column(self.next_title, self.next_why, gap=1), self.button, gap=3, margin=3)
        what.setStretch(1, 1)
        self._next = surface(what)
        self._lists = QWidget()
        self._groups = column(gap=3)
        self._lists.setLayout(self._groups)
        self.setLayout(
            column(column(self.headline, self.summary, gap=1), self._next, scrolling(self._lists), gap=2, margin=2)
        )
        self._columns = 3

    def arrive(self, target: Target) -> None:
        self._refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        if any(change.kind in CARES for change in made):
            self._refresh()

    def look_again(self) -> None:
        self._refresh()

    def _refresh(self) -> None:
        today = self.around.today
        self.around.work.ask(lambda session: agenda(session, today), self._show, ended=self.new_screen)

    def primary(self) -> None:
        focused = self.focusWidget()
        if isinstance(focused, Tag) and focused.hasFocus():
            focused.click()
            return
        found = self._agenda
        if found is not None and found.first is not None:
            self.around.go(Target(PlaceId.BENCH, tool=found.first.card.tool.id))

    def _show(self, found: Agenda) -> None:
        self._agenda = found
        today = self.around.today
        self.headline.setText(f"{today:%A %-d %B %Y}")
        self.summary.setText(_summary(found))
        self._show_next(found)
        empty(self._groups)
        self.tags = []
        for title, note, items in (
            ("Unfinished", "begun on the bench, not signed", found.unfinished),
            ("Overdue", "not to be used until tested", found.overdue),
            ("Due within 30 days", "", found.due_soon),
            ("Held", "not to be used", found.held),
            ("Lent out past their date", "", found.late_loans),
        ):
            if items:
                self._groups.addWidget(self._group(title, note, items))
        self._groups.addStretch(1)
        if found.link:
            words = f"Newest link in the chain of records: {found.link}. Noted elsewhere, it shows later that none was lost."
            self._groups.addWidget(label(self.theme, words, Type.CAPTION, "quiet", wrap=True))

    def _show_next(self, found: Agenda) -> None:
        empty(self._next_tag)
        first = found.first
        self.button.setVisible(first is not None)
        if first is None:
            if found.tools == 0:
                self.next_title.setText("No tools yet")
                self.next_why.setText(
                    "Write your people, models, tools and references into a register file and read it in with "
                    "“reckoner import FILE”; docs/file-formats.md has one to start from."
                )
            else:
                self.next_title.setText("Nothing waits today")
                self.next_why.setText("No run is open, no tool is due within 30 days.")
            return
        tag = Tag(self.theme, first.card, self.around.today)
        tag.clicked.connect(lambda: self.around.go(Target(PlaceId.TOOLS, tool=first.card.tool.id)))
        self._next_tag.addWidget(tag)
        begun = first in found.unfinished
        self.next_title.setText(f"Next: {'go on with' if begun else 'test'} {first.card.tool.number}")
        self.next_why.setText(f"{first.why[0].upper()}{first.why[1:]}. {_where(first)}")
        self.button.say("Go on" if begun else "Put on the bench")

    def _group(self, title: str, note: str, items: tuple[Item, ...]) -> QWidget:
        grid = QGridLayout()
        grid.setSpacing(2 * GRID)
        for i, item in enumerate(items):
            grid.addLayout(self._entry(item), i // self._columns, i % self._columns, Qt.AlignmentFlag.AlignLeft)
        grid.setColumnStretch(self._columns, 1)
        head = row(
            label(self.theme, f"{title}  {len(items)}", Type.LEAD),
            label(self.theme, note, Type.BODY, "quiet"),
            1,
            gap=2,
        )
        holder = QWidget()
        holder.setLayout(column(head, grid, gap=1))
        return holder

    def _entry(self, item: Item) -> QVBoxLayout:
        tag = Tag(self.theme, item.card, self.around.today)
        tag.clicked.connect(lambda: self._open(item))
        self.tags.append(tag)
        why = ElidedLabel(self.theme, item.why, Type.CAPTION, "quiet")
        why.setFixedWidth(TAG_SIZE.width())
        return column(tag, why, gap=0)

    def _open(self, item: Item) -> None:
        place = PlaceId.BENCH if item.card.run_id is not None else PlaceId.TOOLS
        self.around.go(Target(place, tool=item.card.tool.id))

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        """Arrow keys move among the tags as they stand on the screen."""
        if event is None:
            return
        steps = {
            Qt.Key.Key_Right: 1,
            Qt.Key.Key_Left: -1,
            Qt.Key.Key_Down: self._columns,
            Qt.Key.Key_Up: -self._columns,
        }
        step = steps.get(Qt.Key(event.key()))
        if step is None or not self.tags:
            super().keyPressEvent(event)
            return
        focused = next((i for i, t in enumerate(self.tags) if t.hasFocus()), None)
        target = 0 if focused is None else max(0, min(len(self.tags) - 1, focused + step))
        self.tags[target].setFocus(Qt.FocusReason.TabFocusReason)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        fits = max(1, (self.width() - 4 * GRID) // (TAG_SIZE.width() + 2 * GRID))
        if fits != self._columns:
            self._columns = fits
            if self._agenda is not None:
                self._show(self._agenda)


def _summary(found: Agenda) -> str:
    counts = (
        (len(found.unfinished), "unfinished"),
        (len(found.overdue), "overdue"),
        (len(found.due_soon), "due within 30 days"),
        (len(found.held), "held"),
        (len(found.late_loans), "lent past their date"),
    )
    said = [f"{count} {words}" for count, words in counts if count]
    tools = "1 tool" if found.tools == 1 else f"{found.tools} tools"
    return f"{tools} in the register" + (": " + ", ".join(said) if said else "")


def _where(item: Item) -> str:
    card = item.card
    if card.loan:
        return f"It is lent to {card.loan.to}."
    return f"It is kept at: {card.tool.place}." if card.tool.place else ""
