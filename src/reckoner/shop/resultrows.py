"""Signed runs as a tidy table: one reading a row, for a spreadsheet or a script."""

from __future__ import annotations

from collections.abc import Iterator

from reckoner.shop.numbering import certificate_number
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.state import RunState

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
