"""The places as they are made: when one is first gone to, or before, piece by piece, while nobody waits."""

from __future__ import annotations

import importlib
from collections.abc import Iterator

from PyQt6.QtCore import QObject, QTimer
from PyQt6.QtWidgets import QStackedWidget

from reckoner.ui.place import Place, Surroundings
from reckoner.ui.places import PLACES, SPECS, PlaceId

PIECE_MS = 60
"""After how long the next piece is made."""


class MadePlaces(QObject):
    """The places that there are, in the ``stack``; one at most of each."""

    def __init__(self, around: Surroundings, stack: QStackedWidget) -> None:
        super().__init__(stack)
        self._around, self._stack = around, stack
        self.places: dict[PlaceId, Place] = {}
        self._pieces: Iterator[None] = iter(())
        self._beat = QTimer(self)
        self._beat.setInterval(PIECE_MS)
        self._beat.timeout.connect(self._make_one)

    def place(self, name: PlaceId) -> Place:
        """The place, made and put in where it was not yet."""
        place = self._made(name)
        if self._stack.indexOf(place) < 0:
            self._stack.addWidget(place)
        return place

    def _made(self, name: PlaceId) -> Place:
        """The same, perhaps not put in yet: putting it in dresses it, which takes as long again."""
        if name not in self.places:
            spec = SPECS[name]
            self.places[name] = getattr(importlib.import_module(spec.module), spec.cls)(self._around)
        return self.places[name]

    def start(self) -> None:
        """Make all of them ahead, with room between the pieces for whoever works; anew with those of another database."""
        self._pieces = self._all()
        self._beat.start()

    def stop(self) -> None:
        """Make no more ahead."""
        self._beat.stop()

    def take_out(self) -> tuple[Place, ...]:
        """Hold none of them any more; they are for the caller to throw away."""
        self.stop()
        taken = tuple(self.places.values())
        self.places.clear()
        return taken

    def _all(self) -> Iterator[None]:
        for spec in PLACES:
            self._made(spec.id)
            yield
            self.place(spec.id)
            yield
        for spec in PLACES:
            yield from self.place(spec.id).make_ahead()

    def _make_one(self) -> None:
        if next(self._pieces, self) is self:
            self.stop()
