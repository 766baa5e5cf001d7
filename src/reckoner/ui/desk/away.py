"""At a laboratory: tools sent, those that are expected, and what came back with them."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.errors import Refused
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.using.desk import Out, away, out_of
from reckoner.shop.using.naming import named_tool, not_one
from reckoner.shop.using.trips import came_back_as, come_back, send
from reckoner.ui.desk.basket import Basket
from reckoner.ui.desk.certificate import CertificateForm
from reckoner.ui.desk.lending import coming_reader
from reckoner.ui.latest import Latest, Once
from reckoner.ui.layout import column, row, scrolling, surface
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.entry import EntryField, plain_reader, understood_if_given, words_reader
from reckoner.ui.widgets.linedelegate import Line
from reckoner.ui.widgets.lineslist import LinesList
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

WIDE = 46 * GRID
MOST_MONEY = 1e7


class AwayShelf(QWidget):
    """``primary()`` sends what is in the basket, takes back the tool in front, or keeps its certificate."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self.around = around
        self._asking, self._doing = Latest(around.work), Once(around.work)
        self.front: ToolCard | None = None
        self._out: tuple[Out, ...] = ()
        theme = around.theme
        self.scan = EntryField(theme, "Scan a tool, or type its number", words_reader, "such as 0417")
        self.scan.given.connect(lambda _value: self._scanned())
        self.refused = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.basket = Basket(theme, "To be sent")
        self.basket.chosen.connect(self._dress)
        self.laboratory = EntryField(theme, "To which laboratory", words_reader)
        self.expected = EntryField(theme, "Expected back", coming_reader(lambda: around.today), "such as in 3 weeks")
        self.fee = EntryField(theme, "Fee, in the shop's currency", plain_reader(0, MOST_MONEY, ""))
        self.freight = EntryField(theme, "Freight, there and back", plain_reader(0, MOST_MONEY, ""))
        sending = QWidget()
        sending.setLayout(column(self.basket, self.laboratory, self.expected, self.fee, self.freight, 1, gap=1))
        self.front_title = label(theme, "", Type.TITLE, wrap=True)
        self.front_words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.certificate = CertificateForm(around)
        self.certificate.kept.connect(self._certified)
        self.certificate_button = button(theme, "Enter its certificate…", self._certify)
        self.check_button = button(theme, "Check it here", self._check)
        self.check_words = label(theme, "", Type.BODY, wrap=True)
        back = QWidget()
        back.setLayout(
            column(
                self.front_title, self.front_words, self.check_words,
                row(self.certificate_button, self.check_button, 1, gap=2),
                row(button(theme, "Not this one", self._leave, "link"), 1), 1, gap=1,
            )
        )  # fmt: skip
        self._panels = QStackedWidget()
        for panel in (sending, back, self.certificate):
            self._panels.addWidget(panel)
        self._sending, self._back = sending, back
        self.button = PrimaryButton(theme, "Send it")
        self.button.clicked.connect(self.primary)
        left = column(self.scan, self.refused, scrolling(self._panels), self.button, gap=2, margin=2)
        left.setStretch(2, 1)
        paper = surface(left)
        paper.setFixedWidth(WIDE)
        self.title = label(theme, "", Type.LEAD)
        self.list = LinesList(theme, "At laboratories", 500)
        self.list.changed.connect(self._chosen)
        right = column(self.title, self.list, gap=1, margin=2)
        right.setStretch(1, 1)
        self.setLayout(row(paper, surface(right), gap=2))
        for one in (self.laboratory, self.expected, self.fee, self.freight):
            one.line.textChanged.connect(lambda _text: self._dress())
        self._dress()

    def look_again(self) -> None:
        """Ask for what is away anew."""
        today = self.around.today
        self.around.work.look(call(away, today), self._show)

    def _show(self, found: tuple[Out, ...]) -> None:
        self._out = found
        late = sum(1 for one in found if one.days)
        count = "No tool is at a laboratory." if not found else f"{len(found)} away"
        self.title.setText(f"{count}, {late} late" if late else count)
        self.list.lines.show(
            tuple(
                Line(("", i), o.card.tool.id, f"{o.card.tool.number}  {o.to}", o.words, o.card.tool.range_text, o.card.state,
                     marked=True)
                for i, o in enumerate(found)
            )
        )  # fmt: skip

    def arrive(self, tool_id: int) -> None:
        """Bring a tool to the front."""
        self.around.work.look(call(card, tool_id), self._bring)

    def _scanned(self) -> None:
        text, today = self.scan.text.strip(), self.around.today
        self._asking.look(call(named_tool, text, today), lambda found: self._found(text, found[0], found[2]))

    def _found(self, text: str, found: ToolCard | None, many: int) -> None:
        self._refuse("")
        if found is None:
            self._refuse(not_one(text, many))
            return
        self.scan.clear()
        if found.standing.away is not None:
            self._bring(found)
            return
        self.basket.put(found)
        self.front = None
        self._dress()
        if not self.laboratory.text.strip():
            self.laboratory.setFocus()

    def _refuse(self, words: str) -> None:
        self.refused.setText(words)
        self.refused.setVisible(bool(words))

    def _chosen(self) -> None:
        chosen = self.list.chosen
        found = next((o for o in self._out if chosen and o.card.tool.id == chosen[0].id), None)
        if found is not None:
            self._bring(found.card)

    def _bring(self, found: ToolCard) -> None:
        """Bring a tool to the front: one that is away, or one that was."""
        trip = found.standing.away
        self.front = found
        self.front_title.setText(f"{found.tool.number}{f' at {trip.to}' if trip is not None else ''}")
        self.front_words.setText(out_of(found, trip, self.around.today).words if trip is not None else "It is here.")
        tool_id = found.tool.id
        self.around.work.look(call(came_back_as, tool_id), self.check_words.setText)
        self._dress()

    def _leave(self) -> None:
        self.front = None
        self.list.clearSelection()
        self._dress()

    @property
    def _is_away(self) -> bool:
        return self.front is not None and self.front.standing.away is not None

    def _certify(self) -> None:
        if self.front is not None:
            away_to = self.front.standing.away
            self.certificate.begin_for(self.front, away_to.to if away_to is not None else "")
            self._panels.setCurrentWidget(self.certificate)
            self._dress()

    def _certified(self, words: str) -> None:
        self.around.say(words)
        self._leave()
        self.look_again()

    def _check(self) -> None:
        if self.front is not None:
            from reckoner.store.terms import RunKind

            self.around.go(Target(PlaceId.BENCH, tool=self.front.tool.id, kind=RunKind.CHECK))

    def _dress(self) -> None:
        if self.front is None:
            self._panels.setCurrentWidget(self._sending)
            count = len(self.basket.tools)
            self.button.say("Send it" if count < 2 else f"Send {count} tools")
            self.button.setEnabled(bool(count and self.laboratory.text.strip()))
            return
        if self._panels.currentWidget() is self.certificate:
            self.button.say("Keep the certificate")
            self.button.setEnabled(True)
            return
        self._panels.setCurrentWidget(self._back)
        self.button.say("It is back" if self._is_away else "Enter its certificate")
        self.certificate_button.setVisible(self._is_away)
        self.check_button.setVisible(not self._is_away)
        self.button.setEnabled(True)

    def primary(self) -> None:
        """Send what is in the basket, take back the tool in front, or keep its certificate."""
        if not self.button.isEnabled():
            return
        if self.around.person is None:
            self._refuse("Choose who is at the desk first, at the top right.")
            return
        if self.front is None:
            self._send()
        elif self._panels.currentWidget() is self.certificate:
            self.certificate.keep()
        elif self._is_away:
            self._back_again(self.front.tool.id)
        else:
            self._certify()

    def _send(self) -> None:
        if not understood_if_given(self.expected, self.fee, self.freight):
            return
        expected = self.expected.value_or_none()
        fee, freight = self.fee.value_or_none(), self.freight.value_or_none()
        act, ids, to = self.around.act(), tuple(self.basket.tools), self.laboratory.text

        def done(words: str) -> None:
            self.around.say(words)
            self.basket.clear()
            for one in (self.laboratory, self.expected, self.fee, self.freight):
                one.clear()
            self._dress()
            self.look_again()
            self.scan.setFocus()  # for the next one

        self._doing.ask(call(send, ids, to, expected, act, fee, freight), done, self._said_no)

    def _back_again(self, tool_id: int) -> None:
        act = self.around.act()

        def done(words: str) -> None:
            self.around.say(words)
            self._leave()
            self.arrive(tool_id)
            self.look_again()

        self._doing.ask(call(come_back, tool_id, act), done, self._said_no)

    def _said_no(self, refusal: Refused) -> None:
        self._refuse(str(refusal))
