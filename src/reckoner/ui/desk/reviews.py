"""What a bad tool may have spoiled: results that ask for a review, open reviews with their lines, and closed ones."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.decision.states import State
from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words
from reckoner.core.tightening.setting import BandPlace
from reckoner.core.translation import tr
from reckoner.shop.records.documents import review_bytes, saved
from reckoner.shop.register.cards import ToolCard
from reckoner.shop.using.known import KnownErrors, named_tool, not_one
from reckoner.shop.using.reviewing import begin, close, settle
from reckoner.shop.using.reviews import ReviewFacts, ReviewRequest, line_words, review, reviews_and_asks
from reckoner.ui.files import FileKind, ask_where
from reckoner.ui.latest import LatestQuery, OneAtATime
from reckoner.ui.layout import column, row, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.shelves import PlaceShelf
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.lineslist import LinesList, ListLine
from reckoner.ui.widgets.paper import print_bytes
from reckoner.ui.widgets.papersize import paper_mm
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

if TYPE_CHECKING:
    pass

WIDE = 46 * GRID
OPEN, CLOSED = "open", "closed"
NONE = tr("No tool has been found outside that was lent since it was last good. Ask for one by its number at any time.")
FALLS_STATES = {
    BandPlace.INSIDE: State.INSIDE,
    BandPlace.OUTSIDE: State.OUTSIDE,
    BandPlace.CANNOT_TELL: State.UNDECIDED,
}


class ReviewsShelf(PlaceShelf):
    """``primary()`` begins the review in front, settles its line in front, or closes it once every line is settled."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self._asking, self._reading, self._doing = (
            LatestQuery(around.work),
            LatestQuery(around.work),
            OneAtATime(around.work),
        )
        self.asks: tuple[ReviewRequest, ...] = ()
        self.listed: tuple[ReviewFacts, ...] = ()
        self.front: ReviewFacts | None = None
        self._wanted: int | None = None
        self._of: int | None = None
        theme = around.theme
        self.which = Chips(theme, tr("Which reviews"))
        self.which.offer([(OPEN, tr("Open")), (CLOSED, tr("Closed"))], [OPEN])
        self.which.chosen.connect(self.refresh)
        self.tool = EntryField(theme, tr("Ask it of a tool"), words_reader, tr("its number, then Enter"))
        self.tool.given.connect(lambda _value: self._of_tool())
        self.none = label(theme, NONE, Type.BODY, "quiet", wrap=True)
        self.list = LinesList(theme, tr("Reviews"), 500)
        self.list.changed.connect(self._chosen)
        left = column(self.which, self.tool, self.none, self.list, gap=2, margin=2)
        left.setStretch(3, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.sentence = label(theme, "", Type.TITLE, wrap=True)
        self.basis = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.lines = LinesList(theme, tr("What it was used for"), 500)
        self.lines.changed.connect(self._line_chosen)
        self.line_words = label(theme, "", Type.BODY, wrap=True)
        self.note = EntryField(
            theme, tr("How this line was settled"), words_reader, tr("such as torqued again on 3 March")
        )
        self.note.given.connect(lambda _value: self.primary())
        self.note.line.textChanged.connect(lambda _text: self._update_state())
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.button = PrimaryButton(theme, tr("Settle it"))
        self.button.clicked.connect(self.primary)
        self.missing = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.print_button = button(theme, tr("Print…"), self.print)
        self.save_button = button(theme, tr("Save as PDF…"), self._ask_where)
        foot = row(self.button, self.missing, self.save_button, self.print_button, gap=2)
        foot.setStretch(1, 1)
        right = column(
            self.sentence, self.basis, self.lines, self.line_words, self.note, self.fault, foot, gap=2, margin=3
        )
        right.setStretch(2, 1)
        self.setLayout(row(paper, surface(right), gap=2))
        self._update_state()

    def arrive(self, review_id: int, tool_id: int | None = None) -> None:
        """Bring a review to the front; the newest of a tool where no review is named."""
        self._wanted, self._of = review_id, None if review_id else tool_id
        self.which.choose(OPEN)
        self.refresh()

    def refresh(self) -> None:
        """Ask for the list anew."""
        closed = self.which.one == CLOSED

        self._asking.look(call(reviews_and_asks, closed=closed), lambda found: self._show_reviews(*found))

    def _show_reviews(self, asks: tuple[ReviewRequest, ...], found: tuple[ReviewFacts, ...]) -> None:
        self.asks, self.listed = asks, found
        lines = [
            ListLine(
                ("", i),
                -one.run_id,
                tr("{tool}: asks for a review", tool=one.tool),
                one.sentence,
                day_words(one.on),
                State.OUTSIDE,
                marked=True,
            )
            for i, one in enumerate(asks)
        ]
        lines += [
            ListLine(("", len(asks) + i), one.id, one.tool, one.sentence, _left_words(one), past=bool(one.closed))
            for i, one in enumerate(found)
        ]
        self.list.show_lines(tuple(lines))
        if self._of is not None:
            self._wanted = next((one.id for one in found if one.tool_id == self._of), None)
            self._of = None
        if self._wanted is not None:
            place = next((i for i, line in enumerate(lines) if line.id == self._wanted), None)
            self._wanted = None
            if place is not None:
                self.list.setCurrentIndex(self.list.lines.index(place))
        self.none.setVisible(not lines)
        self._chosen()

    def _chosen(self) -> None:
        chosen = self.list.chosen
        front = next((r for r in self.listed if chosen and r.id == chosen[0].id), None)
        same = front is not None and self.front is not None and front.id == self.front.id
        self.front = front
        self._show_front(same=same)

    @property
    def ask(self) -> ReviewRequest | None:
        """The result in front that asks for a review."""
        chosen = self.list.chosen
        return next((a for a in self.asks if chosen and -a.run_id == chosen[0].id), None)

    def _show_front(self, *, same: bool) -> None:
        found, ask = self.front, self.ask
        self.fault.setText("")
        if found is None:
            self.sentence.setText(f"{ask.tool}: {ask.sentence}" if ask is not None else "")
            told = tr("It was lent since it was last good. A review lists each use, and what each joint probably got.")
            self.basis.setText(told if ask is not None else "")
            self.lines.lines.show(())
            self._line_chosen()
            return
        self.sentence.setText(found.sentence)
        said = [
            tr("By how it was found: {basis}", basis=found.basis),
            tr("begun on {begun} by {by}", begun=day_words(found.begun), by=found.by),
        ]
        if found.siblings:
            said.append(
                tr("of the same model, age and use, to be checked as well: {list}", list=", ".join(found.siblings))
            )
        if found.closed:
            said.append(found.closed)
        self.basis.setText("; ".join(said) + ".")
        unsettled = next((i for i, one in enumerate(found.settled) if one is None), 0)
        kept = self.lines.chosen
        self.lines.lines.show(tuple(_review_line(found, i) for i in range(len(found.lines))))
        place = kept[0].id if same and kept and found.settled[kept[0].id] is None else unsettled
        if found.lines:
            self.lines.setCurrentIndex(self.lines.lines.index(place))
        self._line_chosen()

    @property
    def place(self) -> int | None:
        """The line in front."""
        chosen = self.lines.chosen
        return chosen[0].id if chosen else None

    def _line_chosen(self) -> None:
        found, place = self.front, self.place
        if found is None or place is None or place >= len(found.lines):
            self.line_words.setText("")
        else:
            done = found.settled[place]
            words = line_words(found.lines[place], found.unit)
            settled = (
                tr(" Settled: {note} ({by}, {on}).", note=done.note, by=done.by, on=day_words(done.on))
                if done is not None
                else ""
            )
            self.line_words.setText(f"{words[:1].upper()}{words[1:]}.{settled}")
            self.note.clear()
        self._update_state()

    def _update_state(self) -> None:
        found = self.front
        open_one = found is not None and not found.closed
        self.missing.setText("")
        self.note.setVisible(open_one and found is not None and found.left > 0)
        self.lines.setVisible(found is not None)
        for command in (self.print_button, self.save_button):
            command.setVisible(found is not None)
        if found is None:
            self.button.setVisible(self.ask is not None)
            self.button.say(tr("Begin the review"))
            self.button.setEnabled(True)
            return
        self.button.setVisible(open_one)
        if found.left:
            self.button.say(tr("Settle this line"))
            self.button.setEnabled(bool(self.note.text.strip()))
            self.missing.setText("" if self.note.text.strip() else tr("Say how it was settled first."))
        else:
            self.button.say(tr("Close the review"))
            self.button.setEnabled(True)

    def primary(self) -> None:
        """Begin, settle a line, or close."""
        if not self.button.isVisible() or not self.button.isEnabled():
            return
        if self.around.person is None:
            self.fault.setText(tr("Choose who is at the desk first, at the top right."))
            return
        act, found, ask, place = self.around.act(), self.front, self.ask, self.place
        if found is None and ask is not None:
            tool_id, run_id = ask.tool_id, ask.run_id
            self._doing.ask(call(begin, tool_id, act, run_id), self._arrives, self._refused)
        elif found is not None and found.left and place is not None:
            review_id, words = found.id, self.note.text
            self._doing.ask(
                call(settle, review_id, place, words, act), lambda _none: self._again(review_id), self._refused
            )
        elif found is not None:
            review_id = found.id
            self._doing.ask(call(close, review_id, "", act), lambda _none: self._closed(), self._refused)

    def _arrives(self, review_id: int) -> None:
        self.button.setEnabled(False)  # until it stands there
        self.arrive(review_id)

    def _closed(self) -> None:
        self.button.setEnabled(False)
        self.refresh()

    def _again(self, review_id: int) -> None:
        self.note.clear()
        self._reading.look(call(review, review_id), self._read)

    def _read(self, found: ReviewFacts) -> None:
        self.listed = tuple(found if one.id == found.id else one for one in self.listed)
        if self.front is not None and self.front.id == found.id:
            self.front = found
            self._show_front(same=True)

    def _of_tool(self) -> None:
        text, today = self.tool.text.strip(), self.around.today
        act = self.around.act() if self.around.person is not None else None

        def named(found: tuple[ToolCard | None, KnownErrors | None, int]) -> None:
            card, _known, many = found
            if card is None:
                self.tool.refuse(not_one(text, many))
            elif act is None:
                self.tool.refuse(tr("Choose who is at the desk first, at the top right."))
            else:
                tool_id = card.tool.id
                self._doing.ask(call(begin, tool_id, act), self._begun, lambda refusal: self.tool.refuse(str(refusal)))

        self._asking.look(call(named_tool, text, today), named)

    def _begun(self, review_id: int) -> None:
        self.tool.clear()
        self.arrive(review_id)

    def _refused(self, refusal: Refused) -> None:
        self.fault.setText(str(refusal))

    # On paper

    def print(self) -> None:
        """Print the review in front."""
        if self.front is not None:
            self.around.work.prepare(call(review_bytes, self.front, paper_mm()), self._print)

    def _print(self, data: bytes) -> None:
        print_bytes(self.around.theme, data)

    def _ask_where(self) -> None:
        if self.front is not None:
            path = ask_where(
                self.around, self, FileKind.PAPER, tr("Save the review"),
                tr("{tool} review.pdf", tool=self.front.tool), "PDF (*.pdf)",
            )  # fmt: skip
            if path is not None:
                self.save(path)

    def save(self, path: Path) -> None:
        """Write the review in front as a PDF."""
        found = self.front
        if found is None:
            return

        made = call(saved, call(review_bytes, found, paper_mm()), path)
        self.around.work.prepare(made, lambda _none: self.around.saved(tr("The review is in {path}.", path=path), path))


def _left_words(found: ReviewFacts) -> str:
    if found.closed:
        return "closed"
    return tr("{left} of {count} open", left=found.left, count=len(found.lines)) if found.left else tr("to be closed")


def _review_line(found: ReviewFacts, place: int) -> ListLine:
    line, done = found.lines[place], found.settled[place]
    use = line.use
    back = tr(" to {back}", back=day_words(use.back)) if use.back is not None else tr(", still out")
    where = " · ".join(w for w in (use.to, use.job, use.joint) if w)
    return ListLine(
        ("", place),
        place,
        where,
        line_words(line, found.unit),
        f"{tr('settled · ') if done is not None else ''}{day_words(use.on)}{back}",
        FALLS_STATES[line.falls],
        marked=True,
        past=done is not None,
    )
