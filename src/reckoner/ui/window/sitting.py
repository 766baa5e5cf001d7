"""Sitting down by a passphrase, where the shop asks for it, and again after a time without a hand."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer
from PyQt6.QtWidgets import QApplication, QWidget

from reckoner.core.errors import Refused
from reckoner.core.translation import tr, tr_count
from reckoner.shop.people.authorship import Act
from reckoner.shop.people.present import PersonFacts, SittingRule
from reckoner.ui.layout import column, row, surface
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton, button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import passphrase_field
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

if TYPE_CHECKING:
    from reckoner.ui.window.main_window import Window

WIDTH = 64 * GRID
LOOKED_EVERY_MS = 5000
FORGOTTEN = tr(
    "Two others who may change the register set another, under Tools, People. Where nobody knows theirs any more, “reckoner "
    "unlock --as INITIALS” in a terminal lets everybody sit down again, and stands in what was done."
)
A_HAND = (
    QEvent.Type.KeyPress,
    QEvent.Type.MouseButtonPress,
    QEvent.Type.MouseMove,
    QEvent.Type.Wheel,
    QEvent.Type.TouchBegin,
)


def seconds() -> float:
    """Since the machine was started, sleep included."""
    return time.clock_gettime(time.CLOCK_BOOTTIME)


class SittingDown(QWidget):
    """Lies over the whole window while nobody has proved who sits there; nothing below takes a key, a click or a reading
    then. A change that is made here, a reading among them, counts as a hand; a sheet that is open puts it off."""

    def __init__(self, window: Window, be: Callable[[PersonFacts], None]) -> None:
        super().__init__(window.frame)
        self._be = be
        self._window, self._around = window, window.around
        self.rule = SittingRule()
        self._people: tuple[PersonFacts, ...] = ()
        self.seconds: Callable[[], float] = seconds
        self._hand = self.seconds()
        theme = self._around.theme
        self.setProperty("class", "ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.told = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.who = Chips(theme, tr("Who sits down"))
        self.who.chosen.connect(self._ask_passphrase)
        self.field = passphrase_field(theme, tr("Passphrase"))
        self.field.given.connect(lambda _value: self.sit())
        self.button = PrimaryButton(theme, tr("Sit down"))
        self.button.clicked.connect(self.sit)
        self.leave_button = button(theme, tr("Leave it"), self._leave, "link")
        self.forgotten_button = button(theme, tr("It is forgotten…"), lambda: self.tell(FORGOTTEN), "link")
        layout = column(
            label(theme, tr("Who sits down here?"), Type.HEADLINE),
            self.told,
            self.who,
            self.field,
            row(self.button, self.leave_button, 1, self.forgotten_button, gap=2),
            gap=2,
            margin=4,
        )
        card = surface(layout, "drawer")
        card.setFixedWidth(WIDTH)
        self.setLayout(row(1, column(1, card, 2, gap=0), 1, gap=0))
        self.hide()
        self._timer = QTimer(self)
        self._timer.setInterval(LOOKED_EVERY_MS)
        self._timer.timeout.connect(self.look)
        self._around.work.changed.connect(lambda _made: self._stir())
        window.frame.installEventFilter(self)

    def follow(self, rule: SittingRule, people: tuple[PersonFacts, ...]) -> None:
        """What the shop has chosen, and who works here."""
        self.rule, self._people = rule, people
        application = QApplication.instance()
        if application is not None:
            application.removeEventFilter(self)
            if rule.asks and rule.minutes:
                application.installEventFilter(self)
        if rule.asks and rule.minutes:
            self._timer.start()
        else:
            self._timer.stop()
        if not self.isHidden() and not rule.asks:
            self._leave()

    def ask(self, person: PersonFacts | None, words: str = "", *, may_leave: bool = False) -> None:
        """Ask who sits down, ``person`` being chosen already; ``words`` say why. Who sits may leave it, and sits on."""
        self._around.seated = may_leave
        self.told.setText(words)
        self.told.setVisible(bool(words))
        if person is None:
            person = next((one for one in self._people if one.keyed), None)
        self.who.offer([(str(one.id), f"{one.initials}  {one.name}") for one in self._people], [])
        self.who.choose(str(person.id) if person is not None else "")
        self.leave_button.setVisible(may_leave)
        self._cover()
        self.show()
        self.raise_()
        self._window.setEnabled(False)
        self._ask_passphrase()

    def lock(self, words: str) -> None:
        """Whoever sat here does so no more, until the passphrase is typed again."""
        popup = QApplication.activePopupWidget()
        if popup is not None:
            popup.close()
        self.ask(self._around.person, words)

    def sit(self) -> None:
        """Sit down as who was chosen, by what was typed."""
        person = next((one for one in self._people if str(one.id) == self.who.one), None)
        if person is None:
            self.field.refuse(tr("Choose first who you are, above."))
            return
        if not self.field.text:
            self.field.refuse(tr("Type it; it is kept nowhere."))
            self.field.setFocus()
            return
        from reckoner.shop.people.seals import sit_down  # only when it is wanted

        typed = self.field.text
        self.field.clear()
        sat = call(sit_down, typed, Act(person.id, self._around.now()))
        self.button.setEnabled(False)
        self._around.work.ask(
            sat, lambda _none: self._sits(person), self._refused, ended=lambda: self.button.setEnabled(True)
        )

    def look(self) -> None:
        """Lock once nobody has had a hand here for so long."""
        if self.rule.minutes is None or not self._around.seated or QApplication.activeModalWidget() is not None:
            return
        if self.seconds() - self._hand >= 60 * self.rule.minutes:
            long = tr_count("a minute", "{n} minutes", self.rule.minutes)
            self.lock(tr("Nobody had a hand here for {long}. All stands as it was.", long=long))

    def tell(self, words: str) -> None:
        """Something that is said meanwhile."""
        self.told.setText(words)
        self.told.show()

    def _sits(self, person: PersonFacts) -> None:
        self._be(person)
        self._leave()

    def _leave(self) -> None:
        self._around.seated = True
        self._stir()
        self.field.clear()
        self.hide()
        self._window.setEnabled(True)
        self._window.current.setFocus()

    def _refused(self, refusal: Refused) -> None:
        self.field.refuse(str(refusal))
        self.field.setFocus()

    def _ask_passphrase(self) -> None:
        person = next((one for one in self._people if str(one.id) == self.who.one), None)
        if person is not None:
            self.field.relabel(tr("The passphrase of {initials}", initials=person.initials))
        self.field.clear()
        self.field.setFocus()

    def _stir(self) -> None:
        self._hand = self.seconds()

    def _cover(self) -> None:
        self.setGeometry(self._window.frame.rect())

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() in A_HAND:
            self._stir()
        if event is not None and event.type() == QEvent.Type.Resize and watched is self._window.frame:
            self._cover()
        return super().eventFilter(watched, event)
