"""What is asked together: fields and choices, what is shown of them when, and where a refusal stands.

To make a form: a subclass of ``Form`` that asks by ``field``, ``usual`` and ``choice``, each under the name that refusals
give it, lays them out as they are read, and says in ``value`` what they mean together.

The foot of a form: what is missing or was refused, and the button.

A field for something that usually is one of a few: those to press, and a line for any other.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from typing import Any, Generic, TypeVar

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QPlainTextEdit, QVBoxLayout, QWidget

from reckoner.core.errors import InputRefused, Refused
from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr
from reckoner.ui.layout import bring_into_sight, column, row, scrolling, surface
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.buttons import PrimaryButton
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, TextReader, quantity_reader
from reckoner.ui.widgets.text import label, set_tone, tip

T = TypeVar("T")


class UsualEntry(EntryField[T]):
    """What stands in the line counts; the choice in ``usual``, which stand where their form lays them out, that means the
    same is shown as chosen."""

    def __init__(
        self, theme: Theme, words: str, other: str, understand: TextReader[T], *, beside: bool = False
    ) -> None:
        super().__init__(theme, other, understand)
        self.usual = Chips(theme, words, beside=beside)
        self.usual.chosen.connect(lambda: self.line.setText(self.usual.one))
        self.line.textChanged.connect(self._mark)

    def offer(self, choices: Sequence[tuple[str, str]]) -> None:
        """Offer ``choices`` as (what is typed for it, its words)."""
        self.usual.offer(choices, [])
        self._mark(self.text)

    def _mark(self, text: str) -> None:
        meant = self._meaning(text)
        self.usual.choose(next((c for c in self.usual.chips if meant is not None and self._meaning(c) == meant), ""))

    def _meaning(self, text: str) -> T | None:
        try:
            return self._understand(text)[0] if text.strip() else None
        except InputRefused:
            return None


V = TypeVar("V")
A = TypeVar("A", bound="EntryField[Any] | Chips")


class Form(QWidget, Generic[V]):
    """Signals ``changed()``: something else stands in it; ``entered()``: Enter in one of its fields, which is to press the
    primary button; ``refused(sentence)``: what concerns no field that is shown.

    What stands in a field counts, however it is left: nothing has to be confirmed in it.
    """

    changed = pyqtSignal()
    entered = pyqtSignal()
    refused = pyqtSignal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self._asked: dict[str, EntryField[Any] | Chips | QPlainTextEdit] = {}
        self._shown: list[tuple[Callable[[], bool], tuple[QWidget, ...]]] = []
        self._measured: list[tuple[EntryField[float], Kind, float | None]] = []
        self._filling = False

    # Asking

    def length_or_mass(
        self, such_as: float | None, name: str, words: str, kind: Kind = Kind.LENGTH, placeholder: str = ""
    ) -> EntryField[float]:
        """Ask for a length, mass or force, in the units that ``measure_in`` says; ``such_as`` (SI) is shown as an example."""
        made = self.field(name, words, quantity_reader(kind, METRIC.of(kind)), placeholder)
        self._measured.append((made, kind, such_as))
        _measure(made, kind, such_as, METRIC)
        return made

    def measure_in(self, own: OwnUnits) -> None:
        """A bare length, mass or force is in one's ``own`` units from now on, and examples are told in them."""
        for field, kind, such_as in self._measured:
            _measure(field, kind, such_as, own)

    def field(
        self, name: str, words: str, understand: TextReader[T], placeholder: str = "", *, wide: int = 0
    ) -> EntryField[T]:
        """Ask for something typed; ``wide``: no wider than so many steps of the grid."""
        made = EntryField(self.theme, words, understand, placeholder)
        if wide:
            made.cap(wide * GRID)
        return self.take(made, name)

    def usual(
        self, name: str, words: str, other: str, understand: TextReader[T], *, wide: int = 0, beside: bool = False
    ) -> UsualEntry[T]:
        """Ask for something that usually is one of a few: they are called by ``words``, any ``other`` is typed."""
        made = UsualEntry(self.theme, words, other, understand, beside=beside)
        if wide:
            made.cap(wide * GRID)
        return self.take(made, name)

    def choice(
        self,
        name: str,
        words: str,
        choices: Sequence[tuple[str, str]] = (),
        on: Sequence[str] = (),
        *,
        several: bool = False,
        beside: bool = False,
    ) -> Chips:
        """Ask to choose."""
        made = Chips(self.theme, words, several=several, beside=beside)
        made.offer(choices, on)
        return self.take(made, name)

    def text(self, name: str, words: str, placeholder: str, *, high: int) -> QPlainTextEdit:
        """Ask for lines, at least ``high`` steps of the grid."""
        made = QPlainTextEdit()
        made.setFont(self.theme.font(Type.FIGURE))
        made.setAccessibleName(words)
        made.setPlaceholderText(placeholder)
        made.setTabChangesFocus(True)
        made.setMinimumHeight(high * GRID)
        made.textChanged.connect(self.look)
        self._asked[name] = made
        return made

    def include(self, form: Form[Any]) -> None:
        """Ask in it what another ``form`` asks, under the same names."""
        form.changed.connect(self.look)
        form.entered.connect(self.entered)
        self._asked |= form._asked

    def shown(self, when: Callable[[], bool], *parts: QWidget) -> None:
        """Show ``parts`` only while ``when`` holds."""
        self._shown.append((when, parts))

    def take(self, asked: A, name: str) -> A:
        """Ask by a field or a choice of a kind of its own."""
        if isinstance(asked, EntryField):
            asked.key = name
            asked.line.textChanged.connect(lambda _text: self.look())
            asked.given.connect(lambda _value: self.entered.emit())
        else:
            asked.chosen.connect(self.look)
        self._asked[name] = asked
        return asked

    # What stands in it

    def value(self) -> V:
        """What it says. Raises InputRefused with what is missing or not understood, under the name of its field."""
        raise NotImplementedError

    def given(self) -> V | None:
        """The same; None where something is missing, which is said where it stands."""
        try:
            return self.value()
        except InputRefused as refusal:
            self.refuse(refusal)
            return None

    def value_or_none(self) -> V | None:
        """The same; None while something is missing or not understood, without a word."""
        try:
            return self.value()
        except InputRefused:
            return None

    def why_not(self) -> str:
        """What is missing or not understood; empty when nothing is."""
        try:
            self.value()
        except InputRefused as refusal:
            return refusal.reason
        return ""

    def missing(self) -> str:
        """What has still to be said; what is not understood says so at its field, and when it is pressed for."""
        try:
            self.value()
        except InputRefused as refusal:
            return refusal.reason if refusal.value in (None, "") else ""
        return ""

    def refuse(self, refusal: Refused) -> None:
        """Say it at the field that it concerns, which comes into sight with the focus, or by ``refused``."""
        if not self.mark(refusal):
            self.refused.emit(_said(refusal))
        at = self._asked.get(getattr(refusal, "field", ""))
        if at is not None and at.isVisibleTo(self):
            at.setFocus()
            bring_into_sight(at)

    def mark(self, refusal: Refused) -> bool:
        """Say it at the field that it concerns, whether there is such a field."""
        at = self._asked.get(getattr(refusal, "field", ""))
        if not isinstance(at, EntryField) or not at.isVisibleTo(self):
            return False
        at.refuse(_said(refusal))
        return True

    def named(self, name: str) -> str:
        """What a person reads over the field of that ``name``."""
        asked = self._asked.get(name)
        of = asked.line if isinstance(asked, EntryField) else asked
        return of.accessibleName() if of is not None else name

    # Filling and showing it

    @contextmanager
    def filling(self) -> Iterator[None]:
        """While it is filled from elsewhere it looks at itself once, at the end."""
        self._filling = True
        try:
            yield
        finally:
            self._filling = False
        self.look()

    def begin(self) -> None:
        """Begin anew, at its first field."""
        with self.filling():
            self.clear()
            self.propose()
        self.begin_typing()

    def clear(self) -> None:
        """Nothing stands in its fields; what is chosen stays."""
        for asked in self._asked.values():
            if not isinstance(asked, Chips):
                asked.clear()

    def begin_typing(self) -> None:
        """The focus is on its first field, where that is asked now."""
        first = next((asked for asked in self._asked.values() if isinstance(asked, EntryField)), None)
        if first is not None and first.isVisibleTo(self):
            first.setFocus()

    def propose(self) -> None:
        """Put what is usual where nothing was said."""

    def look(self) -> None:
        """Show what is asked now, and tell that something else stands there."""
        if self._filling:
            return
        self.update_state()
        for when, parts in self._shown:
            holds = when()
            for part in parts:
                part.setVisible(holds)
        self.changed.emit()

    def update_state(self) -> None:
        """Offer what depends on something else that stands in it."""


def _said(refusal: Refused) -> str:
    said = refusal.reason if isinstance(refusal, InputRefused) else str(refusal)
    return f"{said[:1].upper()}{said[1:]}"


HIGH = 8 * GRID
"""Room for two lines of words: the button does not move by them."""


class FormFoot(QWidget):
    """``words`` beside the ``button``, which calls ``press``, as Enter in one of the ``forms`` does."""

    def __init__(self, theme: Theme, text: str, press: Callable[[], None], *forms: Form[Any]) -> None:
        super().__init__()
        for form in forms:
            form.entered.connect(press)
            form.refused.connect(self.refuse)
        self.words = label(theme, "", Type.STRONG, "quiet", wrap=True)
        self.words.setFixedHeight(HIGH)
        self.button = PrimaryButton(theme, text)
        self.button.setMinimumWidth(36 * GRID)
        self.button.clicked.connect(press)
        layout = row(self.words, self.button, gap=2)
        layout.setStretch(0, 1)
        self.setLayout(layout)

    def lacks(self, why: str) -> None:
        """What stands in the way of the button, empty when nothing does."""
        self._say(why)
        set_tone(self.words, "quiet")
        self.button.setEnabled(not why)

    def refuse(self, sentence: str) -> None:
        """Why what was pressed could not be done."""
        self._say(sentence)
        set_tone(self.words, "fault")

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.words.setToolTip(tip(words))


def framed(title: QWidget, leave: QWidget, form: Form[Any], foot: FormFoot) -> QVBoxLayout:
    """A form under its ``title``, with a way to ``leave`` it, over its foot."""
    body = QWidget()
    body.setLayout(column(form, 1, margin=3))
    layout = column(row(title, 1, leave, gap=2), surface(column(scrolling(body))), foot, gap=2)
    layout.setStretch(1, 1)
    return layout


def goes_on(field: EntryField[Any], then: EntryField[Any]) -> None:
    """Enter in a ``field`` of a form goes on to the next, ``then``, and presses nothing."""
    field.given.disconnect()
    field.given.connect(lambda _value: then.setFocus())


def adds(field: EntryField[Any], add: Callable[[], None]) -> None:
    """Enter in a ``field`` of a form adds what stands there to a list, and presses nothing, pressed twice either."""
    field.given.disconnect()
    field.given.connect(lambda _value: add())
    field.line.keeps_enter = True


def _measure(field: EntryField[float], kind: Kind, such_as: float | None, own: OwnUnits) -> None:
    field.read_with(quantity_reader(kind, own.of(kind)))
    if such_as is not None:
        field.line.setPlaceholderText(tr("such as {value}", value=own.example(kind, such_as)))
