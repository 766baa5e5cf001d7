"""The Records place: results, labels, exchange, what was done, backups, and the room it all takes, each a shelf."""

from __future__ import annotations

from functools import cached_property

from reckoner.core.translation import tr
from reckoner.shop.changes import Change, ChangeKind
from reckoner.ui.place import Surroundings
from reckoner.ui.places import Target
from reckoner.ui.records.backups import BackupsShelf
from reckoner.ui.records.exchange import ExchangeShelf
from reckoner.ui.records.labels import LabelsShelf
from reckoner.ui.records.results import ResultsShelf
from reckoner.ui.records.storage import StorageShelf
from reckoner.ui.records.trail import TrailShelf
from reckoner.ui.shelves import ShelvedPlace

RESULTS, LABELS, EXCHANGE, TRAIL, BACKUPS, ROOM = "results", "labels", "exchange", "trail", "backups", "room"
SHELVES = (
    (RESULTS, tr("Results")),
    (LABELS, tr("Labels")),
    (EXCHANGE, tr("Exchange")),
    (TRAIL, tr("What was done")),
    (BACKUPS, tr("Backups")),
    (ROOM, tr("Room")),
)


class RecordsPlace(ShelvedPlace):
    """A target's tool shows its results alone; its number finds some."""

    def __init__(self, around: Surroundings) -> None:
        super().__init__(around, tr("Records"), SHELVES)

    @cached_property
    def results(self) -> ResultsShelf:
        return self.added(ResultsShelf(self.around))

    @cached_property
    def labels(self) -> LabelsShelf:
        return self.added(LabelsShelf(self.around))

    @cached_property
    def exchange(self) -> ExchangeShelf:
        return self.added(ExchangeShelf(self.around))

    @cached_property
    def trail(self) -> TrailShelf:
        return self.added(TrailShelf(self.around))

    @cached_property
    def backups(self) -> BackupsShelf:
        return self.added(BackupsShelf(self.around))

    @cached_property
    def room(self) -> StorageShelf:
        return self.added(StorageShelf(self.around))

    def arrive(self, target: Target) -> None:
        if target.labels or target.tools:
            self.put_in_front(LABELS)
            self.labels.arrive(target.labels, target.tools)
        elif target.backup is not None:
            self.put_in_front(BACKUPS)
            self.backups.look_at(target.backup)
        elif target.page:
            self.put_in_front(target.page)
        elif target.tool is not None or target.number:
            self.put_in_front(RESULTS)
        if self.shelf is self.results:
            self.results.arrive(target.tool, target.number)
            self.results.list.setFocus()  # arrows go through them, Enter saves
        elif target.backup is None:
            self.refresh()
        self.new_screen()

    def changes(self, made: tuple[Change, ...]) -> None:
        """A run that was signed stands here at once; while one is at work, nothing is moved under the hand."""
        signed = any(change.kind in (ChangeKind.RUNS, ChangeKind.STANDINGS) for change in made)
        if self.isVisible() and signed and not self.results.batch.running:
            self.refresh()
