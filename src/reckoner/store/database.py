"""The open database: whose thread it is, and its units of work. Which engine keeps it, a ``Backend`` knows.

Every unit of work is committed as a whole, or not at all. A ``Database`` belongs to the thread that opened it; every other
thread is refused. It opens, and is read from, before SQLAlchemy has loaded; a unit of work loads it.
"""

from __future__ import annotations

import socket
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

from reckoner.core.errors import RefusedOnRecord
from reckoner.store import files
from reckoner.store.backend import Backend
from reckoner.store.errors import LookingOn, WriteFailed, WrongThread
from reckoner.store.reader import Reader
from reckoner.store.sqlitefile import SqliteFile

if TYPE_CHECKING:
    from sqlalchemy import Engine
    from sqlalchemy.orm import Session

FILE = files.DATABASE

PATIENCE = 10.0


class Database:
    """The database of the shop in ``folder``; ``looking_on`` opens it for reading only, as it is, and ``alone`` for a window,
    which has it until it is closed. Raises StoreRefused, and FolderHeld when another window has it."""

    def __init__(
        self, folder: Path, *, looking_on: bool = False, alone: bool = False, patience: float = PATIENCE
    ) -> None:
        """``patience`` in s is how long another program's unit of work is waited for."""
        self.path = folder / FILE
        self.looking_on = looking_on
        self.station: Callable[[], str] = socket.gethostname
        """How the station is called at which all of this is done."""
        self._thread = threading.get_ident()
        self.backend: Backend = SqliteFile(folder, patience)
        if alone:
            self.backend.hold()
        try:
            with self._refusals():
                self.backend.open(looking_on=looking_on)
        except BaseException:
            self.backend.close()
            raise

    @contextmanager
    def _refusals(self) -> Iterator[None]:
        """What fails in the engine refuses with a sentence, where it is no fault of ours."""
        try:
            yield
        except Exception as fault:
            told = self.backend.refusal_of(getattr(fault, "orig", None) or fault)
            if told is None:
                raise
            raise (LookingOn(self.path) if self.looking_on and isinstance(told, WriteFailed) else told) from fault

    @property
    def engine(self) -> Engine:
        """SQLAlchemy over it."""
        return self.backend.engine

    @contextmanager
    def reading(self) -> Iterator[Reader]:
        """To read what was committed, all of it as it is at one moment.

        Raises WrongThread outside the owner's thread, StoreRefused when the file is gone or damaged.
        """
        self._require_owner()
        with self._refusals(), self.backend.at_one_moment():
            yield self.backend.reader()
            self.backend.require_same()

    @contextmanager
    def browsing(self) -> Iterator[Session]:
        """To read through the typed models, all of it as it is at one moment; holds up nobody, and writes nothing.

        Raises WrongThread outside the owner's thread, StoreRefused when the file is gone or damaged.
        """
        self._require_owner()
        from reckoner.store.engine import unit_of_work  # loads numpy

        with self._refusals(), unit_of_work(self.backend, self.station(), reads=True) as session:
            try:
                yield session
                self.backend.require_same()
            finally:
                session.rollback()

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A unit of work: committed at the end, rolled back on any error; of a refusal that is kept on record, that alone.

        Raises WrongThread outside the owner's thread, StoreRefused when the disk will not take it or the file is gone.
        """
        self._require_owner()
        from reckoner.store.chain import link_new  # loads sqlalchemy
        from reckoner.store.engine import unit_of_work  # loads numpy

        try:
            with self._refusals(), unit_of_work(self.backend, self.station()) as session:
                yield session
                link_new(session)
                self.backend.require_same()
                session.commit()
                self.backend.require_same()
        except RefusedOnRecord as refusal:
            if not self.looking_on:
                with self._refusals(), unit_of_work(self.backend, self.station()) as session:
                    refusal.keep(session)
                    link_new(session)
                    session.commit()
            raise

    def _require_owner(self) -> None:
        if threading.get_ident() != self._thread:
            raise WrongThread

    def pack(self) -> None:
        """Let it take no more room than what it holds. Raises WrongThread, StoreRefused."""
        self._require_owner()
        with self._refusals():
            self.backend.pack()

    def close(self) -> None:
        self.backend.close()
