"""A signed run as a digital calibration certificate: what stands in it, from the same records as the paper."""

from __future__ import annotations

from reckoner import __version__
from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointResult
from reckoner.core.quantities import printing
from reckoner.core.translation import ENGLISH, tr
from reckoner.core.uncertainty.budget import COVERAGE_PROBABILITY
from reckoner.formats import resultfile
from reckoner.formats.languages import in_language
from reckoner.formats.papers import dcc
from reckoner.formats.papers.certificate_pdf import certificate_pdf
from reckoner.formats.papers.contents import CertificatePaper
from reckoner.formats.papers.dcc import (
    CELSIUS,
    NEWTON_METRE,
    ONE,
    Attached,
    CertificateQuantity,
    MeasuredPhase,
    ResultPart,
)
from reckoner.formats.papers.pdf import A4_MM
from reckoner.shop.numbering import certificate_number
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.records import SeriesState
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import phase_words, settable

ACCEPTED = {True: "pass", False: "fail", None: ""}


def digital_certificate(
    run: RunState, paper: CertificatePaper, file: resultfile.ResultFile, size_mm: tuple[float, float] = A4_MM
) -> bytes:
    """The XML of a signed run, its ``paper`` as PDF on sheets of ``size_mm`` and its result ``file`` inside. Raises
    ShopRefused for a shop check: its numbers have no uncertainty."""
    found, signature, reference = judged(run).verdict, run.signature, run.reference
    if found is None or signature is None or reference is None or found.state is State.COMPARED:
        raise ShopRefused(tr("A shop check has no digital certificate: nobody knows what its numbers are worth."))
    with in_language(ENGLISH):  # but what the paper says
        number, tool = certificate_number(run), run.tool
        identified = (
            (("manufacturer", tool.serial), ("owner", tool.number)) if tool.serial else (("owner", tool.number),)
        )
        return dcc.written(
            dcc.DigitalCertificate(
                number=number,
                software="Reckoner",
                release=__version__,
                begun=run.opened.date(),
                ended=signature.on,
                tool=tool.description,
                maker=tool.maker,
                model=tool.model,
                identifications=identified,
                shop=paper.shop,
                address=paper.address,
                signers=tuple(name for name in (signature.by, signature.beside) if name),
                method=run.rules.title,
                reference=reference.number,
                conditions=_conditions(run),
                statements=(paper.formal, paper.statement, *paper.notes),
                conformity=ACCEPTED[found.accepted],
                phases=_phases(run),
                document=Attached(f"{tool.number}-{number}.pdf", "application/pdf", certificate_pdf(paper, size_mm)),
                result_file=Attached(f"{tool.number}-{number}.json", "application/json", resultfile.written(file)),
            )
        )


def _conditions(run: RunState) -> tuple[CertificateQuantity, ...]:
    room = run.room
    if room is None:
        return ()
    return (
        CertificateQuantity("temperature", (room.temperature,), CELSIUS),
        CertificateQuantity("relative humidity", (room.humidity,), ONE),
    )


def _phases(run: RunState) -> tuple[MeasuredPhase, ...]:
    return tuple(
        MeasuredPhase(
            phase_words(series[0].phase).capitalize(),
            tuple(_point(run, one, point) for one, point in zip(series, verdict.points, strict=True)),
        )
        for series, verdict in judged(run).phases
    )


def _point(run: RunState, series: SeriesState, point: PointResult) -> ResultPart:
    budget, unit = point.budget, run.tool.unit
    name = f"{settable(run.tool.kind, series.target, unit)} {series.direction.words}"
    inside = point.decision.state in (State.INSIDE, State.INSIDE_NEAR)
    decided = point.decision.state is not State.UNDECIDED
    return ResultPart(
        name,
        (
            CertificateQuantity("set on the tool, or shown by it", budget.observations.tool, NEWTON_METRE),
            CertificateQuantity("torque by the reference", budget.observations.reference, NEWTON_METRE),
            CertificateQuantity(
                "mean deviation, (X_a − X_r)/X_r",
                (budget.deviation,),
                ONE,
                budget.expanded_uncertainty,
                budget.coverage_factor,
                COVERAGE_PROBABILITY,
                f"permissible deviation {printing.limit(point.decision.limit)}",
                ("pass" if inside else "fail") if decided else "",
            ),
        ),
    )
