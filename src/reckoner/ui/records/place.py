"""The Records place: results, labels, exchange, what was done, backups, and the room it all takes, each a shelf."""

from __future__ import annotations

from PyQt6.QtWidgets import QStackedWidget, QWidget

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.layout import column
from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import Target
from reckoner.ui.records.backups import BackupsShelf
from reckoner.ui.records.exchange import ExchangeShelf
from reckoner.ui.records.labels import LabelsShelf
from reckoner.ui.records.results import ResultsShelf
from reckoner.ui.records.storage import StorageShelf
from reckoner.ui.records.trail import TrailShelf
from reckoner.ui.widgets.chips import Chips

RESULTS, LABELS, EXCHANGE, TRAIL, BACKUPS, ROOM = "results", "labels", "exchange", "trail", "backups", "room"
SHELVES = (
    (RESULTS, tr("Results")),
    (LABELS, tr("Labels")),
    (EXCHANGE, tr("Exchange")),
    (TRAIL, tr("What was done")),
    (BACKUPS, tr("Backups")),
    (ROOM, tr("Room")),
)


class RecordsPlace(Place):
    """A target's tool shows its results alone; its number finds some."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around)
        self.heads = Chips(self.theme, tr("Records"))
        self.heads.offer(SHELVES, [RESULTS])
        self.heads.chosen.connect(self._turn)
        self.results = ResultsShelf(around)
        self.labels = LabelsShelf(around)
        self.exchange = ExchangeShelf(around)
        self.trail = TrailShelf(around)
        self.backups = BackupsShelf(around)
        self.room = StorageShelf(around)
        self._stack = QStackedWidget()
        for shelf in (self.results, self.labels, self.exchange, self.trail, self.backups, self.room):
            self._stack.addWidget(shelf)
        layout = column(self.heads, self._stack, gap=2, margin=2)
        layout.setStretch(1, 1)
        self.setLayout(layout)

    def arrive(self, target: Target) -> None:
        if target.labels or target.tools:
            self.heads.choose(LABELS)
            self._stack.setCurrentWidget(self.labels)
            self.labels.arrive(target.labels, target.tools)
        elif target.backup is not None:
            self.heads.choose(BACKUPS)
            self._stack.setCurrentWidget(self.backups)
            self.backups.look_at(target.backup)
        elif target.tool is not None or target.number:
            self.heads.choose(RESULTS)
            self._stack.setCurrentWidget(self.results)
        if self._stack.currentWidget() is self.results:
            self.results.arrive(target.tool, target.number)
            self.results.list.setFocus()  # arrows go through them, Enter saves
        elif target.backup is None:
            self.refresh()
        self.new_screen()

    def _turn(self) -> None:
        shelves: dict[str, QWidget] = {
            RESULTS: self.results,
            LABELS: self.labels,
            EXCHANGE: self.exchange,
            TRAIL: self.trail,
            BACKUPS: self.backups,
            ROOM: self.room,
        }
        self._stack.setCurrentWidget(shelves[self.heads.one])
        self.refresh()
        self.new_screen()

    def refresh(self) -> None:
        shelf = self._stack.currentWidget()
        if isinstance(shelf, ResultsShelf | LabelsShelf | ExchangeShelf | TrailShelf | BackupsShelf | StorageShelf):
            shelf.refresh()

    def changes(self, made: tuple[Change, ...]) -> None:
        """A run that was signed stands here at once; while one is at work, nothing is moved under the hand."""
        signed = any(change.kind in (ChangeKind.RUNS, ChangeKind.STANDINGS) for change in made)
        if self.isVisible() and signed and not self.results.batch.running:
            self.refresh()

    def primary(self) -> None:
        shelf = self._stack.currentWidget()
        if shelf is self.results and self.results.primary.isEnabled():
            self.results.save_certificates()
        elif shelf is self.labels and self.labels.primary.isEnabled():
            self.labels.print()
        elif shelf is self.room and self.room.primary.isVisible():
            self.room.archive()

    def print(self) -> None:
        """Ctrl+P: print what is shown."""
        shelf = self._stack.currentWidget()
        if isinstance(shelf, ResultsShelf | LabelsShelf):
            shelf.print()
