"""What is made on paper and into files: gathered where the database is read, and computed beside it.

Each function gathers with a session, and returns what makes the document without one.

Signed runs as a tidy table: one reading a row, for a spreadsheet or a script.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

from reckoner.core.decision.states import State
from reckoner.shop.numbering import certificate_number
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.state import RunState
from reckoner.store.reader import reader_of
from reckoner.store.terms import LinkKind

if TYPE_CHECKING:
    from datetime import date

    from sqlalchemy.orm import Session

    from reckoner.core.tightening.jobcard import JobCard
    from reckoner.shop.runs.state import RunState
    from reckoner.shop.using.reviews import ReviewFacts
    from reckoner.shop.using.setting import SettingAnswer
    from reckoner.shop.using.works import StageSetting

Make: TypeAlias = "Callable[[Session, RunState], Callable[[], bytes]]"
"""Gathers what a document of a run needs, and returns what computes it; empty for a run that has none. Raises ShopRefused for
what stands in its way."""


def certificate_bytes(session: Session, run: RunState, size: tuple[float, float]) -> Callable[[], bytes]:
    """A run's certificate as a PDF on sheets of a ``size`` in mm. Raises ShopRefused."""
    from reckoner.formats.papers.certificate_pdf import certificate_pdf  # only when it is wanted
    from reckoner.shop.papers.certificates import certificate_of  # loads pydantic

    return partial(certificate_pdf, certificate_of(session, run), size)


@dataclass(frozen=True)
class RunPreview:
    """What is seen of a chosen run: its certificate (PDF; None for one of a kind that has none), and whether its record is
    still what was signed, with its ``link`` in the chain (None: it has none)."""

    certificate: bytes | None
    unchanged: bool | None
    link: str


def look_at(session: Session, run_id: int, size: tuple[float, float]) -> Callable[[], RunPreview]:
    """Gathers a run as it will be printed."""
    from reckoner.shop.records.checking import unchanged  # only when it is wanted
    from reckoner.shop.runs.loading import load  # loads pydantic

    run = load(session, run_id)
    paper = certificate_bytes(session, run, size) if run.policy.judges else None
    link = run.signature.link if run.signature is not None else ""
    same = unchanged(session, LinkKind.RUN, run_id)
    return lambda: RunPreview(paper() if paper is not None else None, same, link)


def result_bytes(session: Session, run: RunState) -> Callable[[], bytes]:
    """A run's result file."""
    from reckoner.formats import resultfile  # loads pydantic
    from reckoner.shop.papers.resultfiles import result_file

    return partial(resultfile.written, result_file(session, run))


def digital_bytes(session: Session, run: RunState, size: tuple[float, float]) -> Callable[[], bytes]:
    """A run's digital calibration certificate (XML), with the PDF on sheets of a ``size`` in mm and the result file
    inside."""
    from reckoner.shop.papers.certificates import certificate_of  # loads pydantic
    from reckoner.shop.papers.digital import digital_certificate
    from reckoner.shop.papers.resultfiles import result_file

    found = judged(run).verdict
    if found is None or found.state is State.COMPARED:
        return lambda: b""
    return partial(digital_certificate, run, certificate_of(session, run), result_file(session, run), size)


def written(session: Session, run_id: int, path: Path, make: Make) -> Callable[[], bool]:
    """Gathers a run's document, to be made and written; False comes of one of a kind that has none. What is returned raises
    FileNotWritten."""
    from reckoner.formats.files import write_whole  # only when it is wanted
    from reckoner.shop.runs.loading import load  # loads pydantic

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
    from reckoner.formats.tables import write_table  # loads pydantic
    from reckoner.shop.runs.loading import load

    rows = [cells for run_id in runs for cells in rows_of(load(session, run_id))]
    return partial(write_table, path, COLUMNS, rows)


def saved(session: Session, gather: Callable[[Session], Callable[[], bytes]], path: Path) -> Callable[[], None]:
    """What ``gather`` makes, to be written to ``path``. What is returned raises FileNotWritten."""
    from reckoner.formats.files import write_whole  # only when it is wanted

    made = gather(session)
    return lambda: write_whole(path, made())


def card_bytes(
    session: Session,
    card: JobCard,
    settings: tuple[StageSetting, ...] | None,
    today: date,
    size: tuple[float, float],
    work_id: int | None = None,
) -> Callable[[], bytes]:
    """A job card as a PDF, with the ``settings`` that were worked out for it or those of ``today``, and with what was entered
    in a job where one is named."""
    from reckoner.formats.papers.sheets_pdf import sheet_pdf  # only when it is wanted
    from reckoner.shop.papers.sheets import card_paper
    from reckoner.shop.using.snug import read_stages
    from reckoner.shop.using.works import read_work

    reader = reader_of(session)
    work = read_work(reader, work_id) if work_id is not None else None
    snug = None
    if settings is None:
        stages, snug = read_stages(reader, card, today)
        settings = tuple(stage.setting for stage in stages)
    paper = card_paper(reader, card, settings, work, snug.words if snug is not None else "")
    return partial(sheet_pdf, paper, size)


def setup_sheet_bytes(session: Session, run_id: int, size: tuple[float, float]) -> Callable[[], bytes]:
    """A run's set-up sheet as a PDF. Raises ShopRefused where it has none."""
    from reckoner.formats.papers.sheets_pdf import sheet_pdf  # only when it is wanted
    from reckoner.shop.papers.setupsheets import setup_sheet

    return partial(sheet_pdf, setup_sheet(reader_of(session), load(session, run_id)), size)


def diary_bytes(session: Session, run_id: int, size: tuple[float, float]) -> Callable[[], bytes]:
    """A diary of abuse as a PDF. Raises ShopRefused for a run of another kind."""
    from reckoner.formats.papers.sheets_pdf import sheet_pdf  # only when it is wanted
    from reckoner.shop.papers.diaries import diary_paper

    return partial(sheet_pdf, diary_paper(reader_of(session), load(session, run_id)), size)


def review_bytes(session: Session, found: ReviewFacts, size: tuple[float, float]) -> Callable[[], bytes]:
    """A review as a PDF."""
    from reckoner.formats.papers.sheets_pdf import sheet_pdf  # only when it is wanted
    from reckoner.shop.papers.sheets import review_paper

    return partial(sheet_pdf, review_paper(reader_of(session), found), size)


def setting_card_bytes(session: Session, found: SettingAnswer) -> Callable[[], bytes]:
    """A setting as a card, of the largest size of a label that the shop has for a label printer."""
    from reckoner.formats.papers.settingcard_pdf import (  # only when it is wanted
        SMALLEST_MM,
        USUAL_MM,
        setting_card_pdf,
    )
    from reckoner.shop.papers.labels import sizes
    from reckoner.shop.papers.sheets import setting_card

    alone = [(size.wide, size.high) for size in sizes(reader_of(session)) if size.sheet is None]
    fit = [(wide, high) for wide, high in alone if wide >= SMALLEST_MM[0] and high >= SMALLEST_MM[1]]
    size = max(fit, key=lambda one: one[0] * one[1], default=USUAL_MM)
    return partial(setting_card_pdf, setting_card(found), size)


COLUMNS = (
    "certificate", "signed", "by", "tool", "serial", "maker", "model", "reference", "rule_set", "phase", "direction",
    "target_Nm", "reading", "tool_value_Nm", "reference_Nm", "deviation_percent", "limit_percent",
    "expanded_uncertainty_percent", "coverage_factor", "point_state", "struck", "source", "taken",
)  # fmt: skip


def rows_of(run: RunState) -> Iterator[tuple[str, ...]]:
    """A row for each reading of a signed run, struck ones too; torques in N·m, full precision. Nothing for a run without a
    verdict."""
    signature, reference = run.signature, run.reference
    if signature is None or reference is None:
        return
    tool = run.tool
    head = (
        certificate_number(run), signature.on.isoformat(), signature.by, tool.number, tool.serial, tool.maker, tool.model,
        reference.number, run.rules.name,
    )  # fmt: skip
    for series, verdict in judged(run).phases:
        for one, point in zip(series, verdict.points, strict=True):
            for number, observation in enumerate(one.observations, start=1):
                pair = one.pair_of(observation)
                if pair is None:
                    continue
                yield (
                    *head,
                    one.phase.kind.value,
                    one.direction.value,
                    _number(one.target),
                    str(number),
                    _number(pair.tool),
                    _number(pair.reference),
                    _number(pair.deviation * 100),
                    _number(point.decision.limit * 100),
                    _number(point.budget.expanded_uncertainty * 100) if reference.proven else "",
                    _number(point.budget.coverage_factor) if reference.proven else "",
                    point.decision.state.value,
                    observation.struck,
                    observation.source.value,
                    f"{observation.at:%Y-%m-%d %H:%M:%S}",
                )


def _number(value: float) -> str:
    return f"{value:.12g}"
