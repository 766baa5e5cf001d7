"""What is made of a signed run, and written: gathered where the database is read, and computed beside it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.shop.runs.state import RunState

Make: TypeAlias = "Callable[[Session, RunState], Callable[[], bytes]]"
"""Gathers what a document of a run needs, and returns what computes it; empty for a run that has none. Raises ShopRefused for
what stands in its way."""


def certificates(size: tuple[float, float]) -> Make:
    """Certificates as PDF on sheets of a ``size`` in mm."""

    def make(session: Session, run: RunState) -> Callable[[], bytes]:
        from reckoner.formats.certificate_pdf import certificate_pdf
        from reckoner.shop.certificates import certificate_of

        return partial(certificate_pdf, certificate_of(session, run), size)

    return make


@dataclass(frozen=True)
class Looked:
    """What is seen of a chosen run: its certificate (PDF; None for one of a kind that has none), and whether its record is
    still what was signed, with its ``link`` in the chain (None: it has none)."""

    certificate: bytes | None
    unchanged: bool | None
    link: str


def look_at(session: Session, run_id: int, size: tuple[float, float]) -> Callable[[], Looked]:
    """Gathers a run as it will be printed."""
    from reckoner.shop.checking import unchanged
    from reckoner.shop.runs.loading import load
    from reckoner.store.terms import LinkKind

    run = load(session, run_id)
    paper = certificates(size)(session, run) if run.policy.judges else None
    link = run.signature.link if run.signature is not None else ""
    same = unchanged(session, LinkKind.RUN, run_id)
    return lambda: Looked(paper() if paper is not None else None, same, link)


def result_bytes(session: Session, run: RunState) -> Callable[[], bytes]:
    """A run's result file."""
    from reckoner.formats import resultfile
    from reckoner.shop.resultfiles import result_file

    return partial(resultfile.written, result_file(session, run))


def digital(size: tuple[float, float]) -> Make:
    """Digital calibration certificates (XML), with the PDF on sheets of a ``size`` in mm and the result file inside."""

    def make(session: Session, run: RunState) -> Callable[[], bytes]:
        from reckoner.core.states import State
        from reckoner.shop.certificates import certificate_of
        from reckoner.shop.digital import digital_certificate
        from reckoner.shop.resultfiles import result_file
        from reckoner.shop.runs.judging import judged

        found = judged(run).verdict
        if found is None or found.state is State.COMPARED:
            return lambda: b""
        return partial(digital_certificate, run, certificate_of(session, run), result_file(session, run), size)

    return make


def written(session: Session, run_id: int, path: Path, make: Make) -> Callable[[], bool]:
    """Gathers a run's document, to be made and written; False comes of one of a kind that has none. What is returned raises
    FileNotWritten."""
    from reckoner.formats.written import write_whole
    from reckoner.shop.runs.loading import load

    run = load(session, run_id)
    made = make(session, run) if run.policy.judges else lambda: b""

    def write() -> bool:
        data = made()
        if data:
            write_whole(path, data)
        return bool(data)

    return write


def table(session: Session, runs: tuple[int, ...], path: Path) -> Callable[[], int]:
    """Gathers the readings of some runs, to be written as one table; how many comes of it. What is returned raises
    TableRefused."""
    from reckoner.formats.tables import write_table
    from reckoner.shop.resultrows import COLUMNS, rows_of
    from reckoner.shop.runs.loading import load

    rows = [cells for run_id in runs for cells in rows_of(load(session, run_id))]
    return partial(write_table, path, COLUMNS, rows)
