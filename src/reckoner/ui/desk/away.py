"""At a laboratory: tools sent, those that are expected, and what came back with them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date

from PyQt6.QtWidgets import QWidget

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard, card
from reckoner.shop.using.desk import ToolAway, away, out_of
from reckoner.shop.using.known import named_tool, not_one
from reckoner.shop.using.trips import came_back_as, come_back, send
from reckoner.store.terms import RunKind
from reckoner.ui.desk.certificate import CertificateForm
from reckoner.ui.desk.lending import coming_reader
from reckoner.ui.desk.scanshelf import Basket, ScanShelf
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.places import PlaceId, Target
from reckoner.ui.theme import Theme, Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.entry import plain_reader, words_reader
from reckoner.ui.widgets.form import Form
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

MOST_MONEY = 1e7


@dataclass(frozen=True)
class TripDraft:
    """Tools by their ids, to which laboratory they go, when they are expected back, and what it costs."""

    tools: tuple[int, ...]
    to: str
    expected: date | None
    fee: float | None
    freight: float | None


class TripForm(Form[TripDraft]):
    """What is to be sent."""

    def __init__(self, theme: Theme, today: Callable[[], date]) -> None:
        super().__init__(theme)
        self.basket = self.take(Basket(theme, tr("To be sent")), "tools")
        self.laboratory = self.field("laboratory", tr("To which laboratory"), words_reader)
        self.expected = self.field("expected", tr("Expected back"), coming_reader(today), tr("such as in 3 weeks"))
        self.fee = self.field("fee", tr("Fee, in the shop's currency"), plain_reader(0, MOST_MONEY, ""))
        self.freight = self.field("freight", tr("Freight, there and back"), plain_reader(0, MOST_MONEY, ""))
        self.setLayout(column(self.basket, self.laboratory, self.expected, self.fee, self.freight, 1, gap=1))

    def value(self) -> TripDraft:
        """Raises InputRefused with what is missing or not understood."""
        if not self.basket.tools:
            raise InputRefused("tools", None, tr("Scan or choose a tool first."))
        if not self.laboratory.text.strip():
            raise InputRefused("laboratory", "", tr("Say to which laboratory."))
        return TripDraft(
            tuple(self.basket.tools),
            self.laboratory.text,
            self.expected.value_or_none(),
            self.fee.value_or_none(),
            self.freight.value_or_none(),
        )

    def propose(self) -> None:
        """An empty basket."""
        self.basket.clear()


class AwayShelf(ScanShelf):
    """``front`` is the tool that is back; None while tools are sent."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("At laboratories"))
        theme = around.theme
        self.front: ToolCard | None = None
        self.form = TripForm(theme, lambda: around.today)
        self.front_title = label(theme, "", Type.TITLE, wrap=True)
        self.front_words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.certificate = CertificateForm(around)
        self.certificate.kept.connect(self._certified)
        self.certificate_button = button(theme, tr("Enter its certificate…"), self._certify)
        self.check_button = button(theme, tr("Check it here"), self._check)
        self.check_words = label(theme, "", Type.BODY, wrap=True)
        self._back = QWidget()
        self._back.setLayout(
            column(
                self.front_title, self.front_words, self.check_words,
                row(self.certificate_button, self.check_button, 1, gap=2),
                row(button(theme, tr("Not this one"), self._leave, "link"), 1), 1, gap=1,
            )
        )  # fmt: skip
        self.stack(self.form, self._back, self.certificate)
        self.form.changed.connect(self._update_state)
        self.form.refused.connect(self.refuse)
        self._update_state()

    def refresh(self) -> None:
        """Ask for what is away anew."""
        self.around.work.look(call(away, self.around.today), self._show_away)

    def _show_away(self, found: tuple[ToolAway, ...]) -> None:
        late = sum(1 for one in found if one.days)
        count = tr("No tool is at a laboratory.") if not found else tr("{count} away", count=len(found))
        self.show_out(found, tr("{count}, {late} late", count=count, late=late) if late else count)

    def arrive(self, tool_id: int) -> None:
        """Bring a tool to the front."""
        self.around.work.look(call(card, tool_id), self._bring)

    def scanned(self) -> None:
        """Find the tool: into the basket with it, or back."""
        text, today = self.scan.text.strip(), self.around.today
        self._asking.look(call(named_tool, text, today), lambda found: self._found(text, found[0], found[2]))

    def _found(self, text: str, found: ToolCard | None, many: int) -> None:
        self.refuse("")
        if found is None:
            self.refuse(not_one(text, many))
            return
        self.scan.clear()
        if found.standing.away is not None:
            self._bring(found)
            return
        self.front = None
        self.form.basket.put(found)
        self.form.look()
        if not self.form.laboratory.text.strip():
            self.form.laboratory.setFocus()

    def bring(self, out: ToolAway) -> None:
        """One that is away."""
        self._bring(out.card)

    def _bring(self, found: ToolCard) -> None:
        """Bring a tool to the front: one that is away, or one that was."""
        trip = found.standing.away
        self.front = found
        self.front_title.setText(
            tr("{number} at {to}", number=found.tool.number, to=trip.to) if trip is not None else found.tool.number
        )
        self.front_words.setText(
            out_of(found, trip, self.around.today).words if trip is not None else tr("It is here.")
        )
        tool_id = found.tool.id
        self.around.work.look(call(came_back_as, tool_id), self.check_words.setText)
        self._update_state()

    def _leave(self) -> None:
        self.front = None
        self.list.clearSelection()
        self._update_state()

    @property
    def _is_away(self) -> bool:
        return self.front is not None and self.front.standing.away is not None

    def _certify(self) -> None:
        if self.front is not None:
            away_to = self.front.standing.away
            self.certificate.begin_for(self.front, away_to.to if away_to is not None else "")
            self.panels.setCurrentWidget(self.certificate)
            self._update_state()

    def _certified(self, words: str) -> None:
        self.around.say(words)
        self._leave()
        self.refresh()

    def _check(self) -> None:
        if self.front is not None:
            self.around.go(Target(PlaceId.BENCH, tool=self.front.tool.id, kind=RunKind.CHECK))

    def _update_state(self) -> None:
        if self.front is None:
            self.panels.setCurrentWidget(self.form)
            count = len(self.form.basket.tools)
            self.offer(tr("Send it") if count < 2 else tr("Send {count} tools", count=count), self.form.missing())
            return
        if self.panels.currentWidget() is self.certificate:
            self.offer(tr("Keep the certificate"))
            return
        self.panels.setCurrentWidget(self._back)
        self.offer(tr("It is back") if self._is_away else tr("Enter its certificate"))
        self.certificate_button.setVisible(self._is_away)
        self.check_button.setVisible(not self._is_away)

    def primary(self) -> None:
        """Send what is in the basket, take back the tool in front, or keep its certificate."""
        if not self.button.isEnabled():
            return
        if self.around.person is None:
            self.refuse(tr("Choose who is at the desk first, at the top right."))
            return
        if self.front is None:
            if (trip := self.form.given()) is not None:
                self._send(trip)
        elif self.panels.currentWidget() is self.certificate:
            self.certificate.keep()
        elif self._is_away:
            self._back_again(self.front.tool.id)
        else:
            self._certify()

    def _send(self, trip: TripDraft) -> None:
        def done(words: str) -> None:
            self.around.say(words)
            self.form.begin()
            self.refresh()
            self.scan.setFocus()  # for the next one

        made = call(send, trip.tools, trip.to, trip.expected, self.around.act(), trip.fee, trip.freight)
        self._doing.ask(made, done, self.said_no)

    def _back_again(self, tool_id: int) -> None:
        act = self.around.act()

        def done(words: str) -> None:
            self.around.say(words)
            self._leave()
            self.arrive(tool_id)
            self.refresh()

        self._doing.ask(call(come_back, tool_id, act), done, self.said_no)
