"""What is made of a signed run, and written; each runs on the worker, and loads its library there."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.shop.runs.state import RunState

Make: TypeAlias = "Callable[[Session, RunState], bytes]"
"""A document of a run; empty for one that has none. Raises ShopRefused for what stands in its way."""


def certificates(size: tuple[float, float]) -> Make:
    """Certificates as PDF on sheets of a ``size`` in mm."""

    def make(session: Session, run: RunState) -> bytes:
        from reckoner.formats.certificate_pdf import certificate_pdf
        from reckoner.shop.certificates import certificate_of

        return certificate_pdf(certificate_of(session, run), size)

    return make


@dataclass(frozen=True)
class Looked:
    """What is seen of a chosen run: its certificate (PDF; None for one of a kind that has none), and whether its record is
    still what was signed, with its ``link`` in the chain (None: it has none)."""

    certificate: bytes | None
    unchanged: bool | None
    link: str


def look_at(session: Session, run_id: int, size: tuple[float, float]) -> Looked:
    """A run as it will be printed."""
    from reckoner.shop.checking import unchanged
    from reckoner.shop.runs.loading import load
    from reckoner.store.terms import LinkKind

    run = load(session, run_id)
    data = certificates(size)(session, run) if run.policy.judges else None
    link = run.signature.link if run.signature is not None else ""
    return Looked(data, unchanged(session, LinkKind.RUN, run_id), link)


def result_bytes(session: Session, run: RunState) -> bytes:
    """A run's result file."""
    from reckoner.formats import resultfile
    from reckoner.shop.resultfiles import result_file

    return resultfile.written(result_file(session, run))


def digital(size: tuple[float, float]) -> Make:
    """Digital calibration certificates (XML), with the PDF on sheets of a ``size`` in mm and the result file inside."""

    def make(session: Session, run: RunState) -> bytes:
        from reckoner.core.states import State
        from reckoner.shop.digital import digital_certificate
        from reckoner.shop.runs.judging import judged

        found = judged(run).verdict
        return b"" if found is None or found.state is State.COMPARED else digital_certificate(session, run, size)

    return make


def written(session: Session, run_id: int, path: Path, make: Make) -> bool:
    """Make a run's document and write it; False where it is of a kind that has none. Raises FileNotWritten."""
    from reckoner.formats.written import write_whole
    from reckoner.shop.runs.loading import load

    run = load(session, run_id)
    if not run.policy.judges:
        return False
    data = make(session, run)
    session.expunge_all()  # of many, none is held longer than it takes
    if data:
        write_whole(path, data)
    return bool(data)


def table(session: Session, runs: tuple[int, ...], path: Path) -> int:
    """Write the readings of some runs as one table, and say how many. Raises FileNotWritten."""
    from reckoner.formats.tables import write_table
    from reckoner.shop.resultrows import COLUMNS, rows_of
    from reckoner.shop.runs.loading import load

    rows = [cells for run_id in runs for cells in rows_of(load(session, run_id))]
    write_table(path, COLUMNS, rows)
    return len(rows)
