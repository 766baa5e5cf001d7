"""A cross-check under way: what to load, what both show, and what was found at each torque."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QGridLayout, QWidget

from reckoner.core.errors import Refused
from reckoner.core.history.crosschecks import Agreement
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.translation import tr
from reckoner.shop.procedures.weights import hanging_cautions
from reckoner.shop.references import crossruns
from reckoner.shop.references.crossruns import READINGS, CrossState
from reckoner.shop.references.trust import lacks_for_trust, trust
from reckoner.shop.setups import hanging
from reckoner.ui.layout import column, empty, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.cautions import Cautions
from reckoner.ui.widgets.entry import EntryField, numbers_of, torque_reader, words_reader
from reckoner.ui.widgets.text import label, set_tone
from reckoner.ui.work import call


class CrossCheckPanel(QWidget):
    """Signals ``changed()`` when the reference's chart or certificate did, ``left()``. ``state`` is the check in front."""

    changed = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self.state: CrossState | None = None
        self._unit = N_M
        theme = around.theme
        self.which = label(theme, "", Type.STRONG, "quiet")
        self.now = label(theme, "", Type.HEADLINE, wrap=True)
        self.how = label(theme, "", Type.BODY, wrap=True)
        self.shown = EntryField(theme, tr("The other shows"), torque_reader(N_M))
        self.indicated = EntryField(theme, tr("It shows"), torque_reader(N_M))
        self.shown.awaits_number = self.indicated.awaits_number = True
        for field in (self.shown, self.indicated):
            field.offer_pad(theme)
        self.shown.given.connect(lambda _value: self.indicated.setFocus())
        self.indicated.given.connect(lambda _value: self.take())
        self.why = EntryField(theme, "Why?", words_reader, tr("such as: not at rest"))
        self.why.given.connect(lambda _value: self._because())
        self._asked: Callable[[str], None] | None = None
        self._grid = QGridLayout()
        self._grid.setHorizontalSpacing(3 * GRID)
        self._grid.setVerticalSpacing(GRID // 2)
        self._grid.setColumnStretch(4, 1)
        self.found = label(theme, "", Type.LEAD, wrap=True)
        self.trust_words = label(theme, "", Type.BODY, wrap=True)
        self.fault = label(theme, "", Type.STRONG, "fault", wrap=True)
        self.taking = button(theme, tr("Take the reading"), self.take)
        self.keep = button(theme, tr("Keep this check"), self.close_it)
        self.strike = button(theme, tr("Strike the last"), lambda: self._ask(self._strike), "link")
        self.leave = button(theme, tr("Give it up…"), lambda: self._ask(self._give_up), "link")
        self.trust = button(theme, tr("Keep it as its certificate"), self.trust_it)
        self.done = button(theme, tr("Done"), self.left.emit, "link")
        self.cautions = Cautions(theme, hanging_cautions(None))
        self._entry = QWidget()
        self._entry.setLayout(row(self.shown, self.indicated, gap=2))
        self.setLayout(
            column(
                self.which, self.now, self.how, self._entry, row(self.taking, self.leave, self.keep, self.strike, 1, gap=1),
                self.why, self.fault, self._grid, self.found, self.trust_words, row(self.trust, self.done, 1, gap=1),
                self.cautions, gap=1,
            )
        )  # fmt: skip

    def show_state(self, state: CrossState, unit: Unit) -> None:
        """Show a check as it stands."""
        fresh = self.state is None or self.state.id != state.id
        self.state, self._unit = state, unit
        if fresh:
            self.why.hide()
            for field in (self.shown, self.indicated):
                field.read_with(torque_reader(unit))
                field.clear()
        self.fault.setText("")
        self._say_next(state)
        self._show_found(state)
        self.done.setVisible(state.closed)
        self._say_trust(state)
        if not state.closed and state.next is not None and self.isVisible():
            (self.shown if state.other.shows else self.indicated).setFocus()

    def _say_next(self, state: CrossState) -> None:
        wanted, name = state.next, state.reference.number
        under_way = not state.closed
        self.which.setText(
            tr(
                "{name} against {name_2}, begun {begun} by {by}",
                name=name,
                name_2=state.other.name,
                begun=day_words(state.begun),
                by=state.by,
            )
        )
        for widget in (self.how, self._entry, self.taking):
            widget.setVisible(under_way and wanted is not None)
        self.leave.setVisible(under_way)
        for widget in (self.keep, self.strike):
            widget.setVisible(under_way and bool(state.found))
        self.cautions.setVisible(under_way and state.other.lever is not None)
        self.cautions.show_cautions(hanging_cautions(state.other.lever))
        self.shown.setVisible(state.other.shows)
        self.shown.relabel(tr("{name} shows", name=state.other.name))
        self.indicated.relabel(tr("{name} shows", name=name))
        if state.closed:
            self.now.setText(tr("What was found"))
        elif wanted is None:
            self.now.setText(tr("Each torque has been read. Keep the check."))
        else:
            count = len(state.at(wanted)) + 1
            if state.other.lever is not None:
                hung = state.other.hung(wanted)
                self.now.setText(tr("Hang {hung_words}.", hung_words=hanging.hung_words(hung, self._around.own)))
                made = hanging.torque_words(state.other.lever, hung, self._unit)
                how = tr("It makes {made}. Lower it slowly, let it come to rest, and read.", made=made)
            else:
                self.now.setText(tr("Load both with about {wanted}.", wanted=quantity(wanted, self._unit)))
                how = tr("One on the other, in line, at rest; read both at the same moment.")
            self.how.setText(tr("Reading {count} of {readings}. {how}", count=count, readings=READINGS, how=how))

    def _show_found(self, state: CrossState) -> None:
        empty(self._grid)
        theme, middle = self._around.theme, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        if state.found:
            for j, head in enumerate((tr("Torque"), tr("Readings"), tr("Difference"), "±U")):
                self._grid.addWidget(label(theme, head, Type.CAPTION, "quiet"), 0, j, middle)
        for i, (target, one) in enumerate(state.found, start=1):
            cells = (
                quantity(target, self._unit),
                str(one.count),
                percent(one.difference, 2, sign=True),
                percent(one.expanded_uncertainty, 2),
            )
            for j, words in enumerate(cells):
                self._grid.addWidget(label(theme, words, Type.STRONG if j == 2 else Type.BODY), i, j, middle)
            said = label(theme, agreement_words(one), Type.BODY)
            set_tone(said, "fault" if one.agrees is False else "")
            self._grid.addWidget(said, i, 4)
        off = [quantity(t, self._unit) for t, one in state.found if one.agrees is False]
        if not state.found:
            self.found.setText("")
        elif off:
            self.found.setText(
                tr(
                    "At {list} the two cannot both be right: let neither decide until a third one has told which.",
                    list=", ".join(off),
                )
            )
        elif state.reference.proven:
            self.found.setText(tr("The two agree within what both claim."))
        else:
            self.found.setText("")
        self.found.setVisible(bool(self.found.text()))

    def _say_trust(self, state: CrossState) -> None:
        """For one that nobody has certified: what it would take to trust it."""
        asks = not state.reference.proven and bool(state.found)
        lacks = lacks_for_trust(state, self._unit) if asks else ()
        self.trust_words.setVisible(asks)
        self.trust.setVisible(asks and state.closed and not lacks)
        if lacks:
            self.trust_words.setText(
                tr(
                    "To trust {number} by this check it still takes: {list}.",
                    number=state.reference.number,
                    list="; ".join(lacks),
                )
            )
        elif asks:
            then = (
                tr("keep the check, then it can be kept as its certificate")
                if not state.closed
                else tr("keep it as its certificate")
            )
            self.trust_words.setText(
                tr(
                    "This suffices to trust {number} for a year at these torques: {then}. It is this shop's own, "
                    "and not accredited.",
                    number=state.reference.number,
                    then=then,
                )
            )

    # What is done

    def take(self) -> None:
        """Keep what both show."""
        state = self.state
        if state is None or state.next is None:
            return
        target = state.next
        values = numbers_of(*((self.shown, self.indicated) if state.other.shows else (self.indicated,)))
        if values is None:
            return
        indicated, shown = values[-1], values[0] if state.other.shows else None

        self._do(crossruns.read, target, indicated, shown, done=self._taken)

    def _taken(self) -> None:
        for field in (self.shown, self.indicated):
            field.clear()

    def close_it(self) -> None:
        """Into the chart with it."""
        self._do(crossruns.close, "", done=self.changed.emit)

    def trust_it(self) -> None:
        """Keep it as the reference's certificate."""
        self._do(trust, done=self.changed.emit)

    def _ask(self, then: Callable[[str], None]) -> None:
        self._asked = then
        self.why.clear()
        self.why.show()
        self.why.setFocus()

    def _because(self) -> None:
        reason, then = self.why.text, self._asked
        self.why.hide()
        if then is not None:
            then(reason)

    def _strike(self, reason: str) -> None:
        self._do(crossruns.strike, reason)

    def _give_up(self, reason: str) -> None:
        self._do(crossruns.give_up, reason, done=self.left.emit)

    def _do(self, change: Callable[..., CrossState], *given: object, done: Callable[[], None] | None = None) -> None:
        """A ``change`` of the check in front, with what it is given between the check and who does it."""
        state = self.state
        if state is None:
            return
        if self._around.person is None:
            self.fault.setText(tr("Choose who is at the bench first, at the top right."))
            return

        def kept(now: CrossState) -> None:
            self.show_state(now, self._unit)
            if done is not None:
                done()

        def refused(refusal: Refused) -> None:
            at = {"shown": self.shown, "indicated": self.indicated}.get(getattr(refusal, "field", ""))
            if at is not None and at.isVisible():
                at.refuse(str(refusal))
                at.setFocus()
            else:
                self.fault.setText(str(refusal))

        self._around.work.ask(call(change, state.id, *given, self._around.act()), kept, refused)


def agreement_words(found: Agreement) -> str:
    """Whether both can be right."""
    if found.normalised is None:
        return ""
    times = tr("{normalised:.1f} of what both allow", normalised=found.normalised)
    return tr("agrees, {times}", times=times) if found.agrees else tr("does not agree: {times}", times=times)
