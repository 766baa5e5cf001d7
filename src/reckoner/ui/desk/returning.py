"""A lent tool that comes back: what it was for, and the two questions that are asked of every return."""

from __future__ import annotations

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QWidget

from reckoner.core.translation import tr
from reckoner.shop.consequences import consequence
from reckoner.shop.events import EVENTS
from reckoner.shop.using.desk import Out, settings_words
from reckoner.store.terms import EventKind
from reckoner.ui.layout import column, row
from reckoner.ui.place import Surroundings
from reckoner.ui.theme import Type
from reckoner.ui.widgets.buttons import button
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.entry import EntryField, words_reader
from reckoner.ui.widgets.text import label
from reckoner.ui.work import call

WOUND, HERE, LAY = "yes", "here", "lay"
NOTHING = "nothing"
ASKED_ELSEWHERE = (EventKind.STORED_WOUND_UP, EventKind.REPAIRED, EventKind.LENT_OUTSIDE)
"""Harms that are not asked of a return: the first has its own question."""


class ReturnPanel(QWidget):
    """``befell`` is what happened to it meanwhile, ``wound_back`` whether it came back as it should. Signals ``changed()``,
    and ``left()`` when it is another tool that is wanted."""

    changed = pyqtSignal()
    left = pyqtSignal()

    def __init__(self, around: Surroundings) -> None:
        super().__init__()
        self._around = around
        self._out: Out | None = None
        theme = around.theme
        self.title = label(theme, "", Type.TITLE, wrap=True)
        self.words = label(theme, "", Type.BODY, "quiet", wrap=True)
        self.happened = Chips(theme, tr("Anything happened?"))
        self.wound_words = label(theme, tr("Wound back?"), Type.LEAD)
        self.wound = Chips(theme, tr("Wound back?"))
        for chips in (self.happened, self.wound):
            chips.chosen.connect(self._tell)
        self.note = EntryField(theme, tr("In a few words, if there is anything to say"), words_reader)
        self.told = label(theme, "", Type.STRONG, wrap=True)
        self.setLayout(
            column(
                self.title, self.words, label(theme, tr("Anything happened?"), Type.LEAD), self.happened, self.wound_words,
                self.wound, self.note, self.told, row(button(theme, tr("Not this one"), self.left.emit, "link"), 1), 1, gap=1,
            )
        )  # fmt: skip

    def show_loan(self, out: Out) -> None:
        """A loan that ends now; nothing is answered yet."""
        self._out, tool = out, out.card.tool
        self.title.setText(tr("{number} from {to}", number=tool.number, to=out.to))
        self.words.setText(out.words)
        harms = [(k.value, facts.words) for k, facts in EVENTS.items() if facts.harms and k not in ASKED_ELSEWHERE]
        self.happened.offer([(NOTHING, "no"), *harms], [NOTHING])
        self.wound.offer(
            [(WOUND, tr("yes")), (HERE, tr("no, just now: wound back here")), (LAY, tr("no, it lay wound up"))], [WOUND]
        )
        for one in (self.wound, self.wound_words):
            one.setVisible(tool.kind.is_setting and not tool.kind.is_fixed)
        self.note.clear()
        self._around.work.look(
            call(settings_words, tool.id, tool.unit),
            lambda said: self.words.setText("\n".join((out.words, *said))),
        )
        self._tell()

    @property
    def befell(self) -> EventKind | None:
        """What happened to it meanwhile; that it lay wound up is an event too."""
        word = self.happened.one
        if word and word != NOTHING:
            return EventKind(word)
        return EventKind.STORED_WOUND_UP if self.wound.one == LAY and not self.wound.isHidden() else None

    @property
    def wound_back(self) -> bool:
        """False where it was wound back only now, and that is not told as what happened to it."""
        return self.wound.isHidden() or self.wound.one == WOUND or self.befell is EventKind.STORED_WOUND_UP

    def _tell(self) -> None:
        """What follows from the answers, before it is done."""
        out, kind = self._out, self.befell
        told = (
            consequence(out.card.tool.number, out.card.standing, kind) if out is not None and kind is not None else ""
        )
        self.told.setText(told)
        self.changed.emit()
