"""A signed run as a certificate: every word and figure on it, from the run's own records and facts."""

from __future__ import annotations

import math

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.printing import fixed, number, percent, quantity, span
from reckoner.core.rules import Coverage
from reckoner.core.states import State
from reckoner.core.units import Kind, unit_named
from reckoner.core.verdict import PointResult, Verdict
from reckoner.formats.certificate import (
    BudgetLine,
    BudgetTable,
    Certificate,
    FencePicture,
    LeverPicture,
    PhaseTable,
    PointRow,
)
from reckoner.formats.resultfile import digest_of
from reckoner.shop.acts import ShopRefused
from reckoner.shop.facts import ReferenceFacts
from reckoner.shop.fitted import head_words, scale_words
from reckoner.shop.hanging import hung_words, torque_words
from reckoner.shop.numbering import certificate_number
from reckoner.shop.register.attachments import logo
from reckoner.shop.resultfiles import record_of
from reckoner.shop.runs.differences import differences
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import SeriesState, is_half
from reckoner.shop.runs.state import RunState
from reckoner.shop.wording import (
    COMPONENT_WORDS,
    SIGNED_TAILS,
    at_target,
    came_words,
    formal,
    one_sided_words,
    rule_words,
    run_sentence,
    settable,
    torque_figure,
)
from reckoner.store.schema import Shop
from reckoner.store.terms import PhaseKind

IS_NOT = (
    "This is the shop's own record, and no accreditation. It holds for the tool as it was on the day; "
    "the maker's instructions and local codes rule."
)
SHOP_CHECK = (
    "A shop check: numbers to compare, without a verdict, a due date or a word of conformity. "
    "W is not stated: nobody knows the share of what it was compared with."
)
Block = tuple[str, tuple[tuple[str, str], ...]]
"""A title, and its named lines."""
LONGEST = 240
"""Characters of a line that find room in a block; a remark may be as long as a person likes."""
MILLIMETRE = unit_named("mm", Kind.LENGTH)
BEYOND_COUNTING = 1000.0
"""More degrees of freedom than this change no coverage factor that is written."""


def certificate_of(session: Session, run: RunState) -> Certificate:
    """All that stands on it. Raises ShopRefused for a run that is not signed, or that measured and judged nothing."""
    signature, reference, found = run.signature, run.reference, judged(run).verdict
    if signature is None:
        raise ShopRefused("Sign the run first; a certificate is of what was signed.")
    if reference is None or found is None:
        raise ShopRefused("Nothing was measured in this run that could be certified; its record stays under its tool.")
    if not run.policy.judges:
        raise ShopRefused(f"A {run.policy.words.lower()} has no certificate; what it found stands under its tool.")
    shop = session.scalar(select(Shop).order_by(Shop.id).limit(1))
    compared = found.state is State.COMPARED
    title = (
        "Shop check" if compared else "Test certificate" if run.policy.renews else f"Record: {run.policy.words.lower()}"
    )
    said = formal(found, run.rules.title, run.tool.unit)
    rule = f", by the rule “{rule_words(found.decision.rule)}”" if not compared else ""
    blocks, told_below = _in_lines(
        (
            ("The tool", _tool(run)),
            ("Compared with", _reference(run, reference)),
            ("How", _method(run)),
            ("The room", _room(run)),
        )
    )
    amends = certificate_number(load(session, run.amends)) if run.amends is not None else ""
    digest = digest_of(record_of(run, amends))
    mark = f"{certificate_number(run)} {run.tool.number} {digest}"
    return Certificate(
        title=title,
        number=certificate_number(run),
        shop=shop.name if shop is not None else "",
        address=shop.address if shop is not None else "",
        blocks=blocks,
        statement=f"{run_sentence(run.tool, found)}.",
        formal=f"{said}{rule}.",
        phases=_phases(run),
        remarks=(*told_below, *_remarks(run), *_versions(session, run)),
        signatures=(*_signatures(run), ("Result file", f"SHA-256 {digest}")),
        notes=(SHOP_CHECK, IS_NOT) if compared else (IS_NOT,),
        mark=mark,
        budgets=()
        if compared
        else tuple(_budget(run, found, s, p) for s, p in zip(run.series, found.points, strict=True)),
        levers=_levers(run, reference),
        logo=logo(session),
    )  # fmt: skip


def _in_lines(blocks: tuple[Block, ...]) -> tuple[tuple[Block, ...], tuple[str, ...]]:
    """The blocks with every line short enough for its place, and as remarks what is too long for one."""
    below = tuple(f"{name}: {words}" for _title, lines in blocks for name, words in lines if len(words) > LONGEST)
    kept = tuple(
        (title, tuple((name, words if len(words) <= LONGEST else "told below") for name, words in lines))
        for title, lines in blocks
    )
    return kept, below


def _tool(run: RunState) -> tuple[tuple[str, str], ...]:
    tool = run.tool
    return (
        ("Number", tool.number),
        ("Made by", f"{tool.maker} {tool.model}".strip()),
        ("Serial", tool.serial),
        ("Kind", f"{tool.description}, Type {tool.kind.type.value} class {tool.kind.class_}"),
        ("Range", tool.range_text),
        ("Resolution", quantity(tool.kind.resolution, tool.unit) if tool.kind.resolution else ""),
        ("Scale", scale_words(tool)),
    )


def _reference(run: RunState, reference: ReferenceFacts) -> tuple[tuple[str, str], ...]:
    if reference.hung is not None:
        names = sorted({w.number for at in reference.hung.points for w in at.weights})
        return (("Weights", ", ".join(names)), ("Gravity", f"{fixed(reference.hung.gravity, 5)} m/s²"))
    lines = [("Number", reference.number), ("Serial", reference.serial)]
    if reference.points:
        until = f", holds to {reference.due:%-d %b %Y}" if reference.due else ""
        lines.append(("Certificate", f"{reference.certificate_number}, {reference.laboratory}{until}"))
        lines.append(("Its W", f"up to {percent(reference.worst_uncertainty, 2)}, k = {reference.coverage_factor:g}"))
    elif reference.pull is None:
        lines.append(("Certificate", "none: what it shows was compared"))
    if any(reference.correction(series.target) != 1 for series in run.series):
        lines.append(("Its error", "known, and taken off the readings"))
    if head := head_words(run.tool):
        lines.append(("Head", head))
    if reference.error_left:
        lines.append(("Its error", f"left in: {reference.error_left}"))
    return tuple(lines)


def _method(run: RunState) -> tuple[tuple[str, str], ...]:
    exercise = sum(e.done for e in run.exercise)
    return (
        ("Rule set", run.rules.title),
        ("Approach", run.tool.approach.value),
        (
            "Exercise",
            f"{exercise} releases at full scale" if run.tool.kind.is_setting else f"{exercise} full-scale pulls",
        ),
        ("Directions", ", ".join(d.words for d in dict.fromkeys(s.direction for s in run.found))),
        ("Fitting", run.plan.adapter),
        ("Otherwise", run.plan.note),
    )


def _room(run: RunState) -> tuple[tuple[str, str], ...]:
    room = run.room
    if room is None:
        return ()
    drift = f", drifting by {fixed(room.drift, 1)} °C" if room.drift else ""
    return (
        ("Temperature", f"{number(room.temperature)} °C{drift}"),
        ("Humidity", percent(room.humidity, 0)),
        ("Remark", room.note),
    )


def _phases(run: RunState) -> tuple[PhaseTable, ...]:
    made = []
    for series, verdict in judged(run).phases:
        left = series[0].phase.kind is PhaseKind.LEFT
        sentence = "" if len(judged(run).phases) == 1 else f"{run_sentence(run.tool, verdict)}."
        rows = tuple(_row(run, one, point) for one, point in zip(series, verdict.points, strict=True))
        made.append(PhaseTable("As left" if left else "As found", rows, sentence))
    return tuple(made)


def _where(run: RunState, series: SeriesState) -> str:
    direction = f" {series.direction}" if len(run.tool.directions) > 1 else ""
    return f"{settable(run.tool.kind, series.target, run.tool.unit)}{direction}"


def _readings(run: RunState, series: SeriesState) -> tuple[list[float], str]:
    """What was read, N·m: the reference's where the tool's value is set, else the tool's and what it was held against."""
    tool, actual = ([getattr(pair, side) for pair in series.pairs] for side in ("tool", "reference"))
    if any(is_half(o.detail) for o in series.counted):
        return actual, f" (the tool showed {', '.join(torque_figure(run, value) for value in tool)})"
    if {torque_figure(run, value) for value in tool} == {torque_figure(run, series.target)}:
        return actual, ""
    held = list(dict.fromkeys(torque_figure(run, value) for value in actual))
    return tool, f" (tool) against {', '.join(held)}"


def _row(run: RunState, series: SeriesState, point: PointResult) -> PointRow:
    budget = point.budget
    freedom = budget.degrees_of_freedom
    nu = f"{freedom:.0f}" if freedom < BEYOND_COUNTING else "∞"
    values, against = _readings(run, series)
    known = point.decision.state is not State.COMPARED
    worth = f"{percent(budget.expanded_uncertainty, 2)} ({number(budget.coverage_factor)}, {nu})"
    return PointRow(
        target=_where(run, series),
        readings=", ".join(torque_figure(run, value) for value in values) + against,
        mean=torque_figure(run, sum(values) / len(values)),
        deviation=percent(budget.deviation, 2, sign=True),
        uncertainty=worth if known else "—",
        limit=f"±{percent(point.decision.limit, 1)}",
        state=point.decision.state.words,
        fence=FencePicture(
            point.decision.limit,
            point.decision.near_zone if known else 0.0,
            budget.deviations,
            budget.deviation,
            budget.expanded_uncertainty if known else 0.0,
        ),
    )


def _remarks(run: RunState) -> tuple[str, ...]:
    signature, said = run.signature, []
    if came := came_words(run):
        said.append(f"{came}.")
    said += [f"{words}." for s in run.series if (words := one_sided_words(run, s))]
    lever = run.reference.hung if run.reference is not None else None
    if lever is not None and lever.disc:
        said += [
            f"For {at_target(at.target, run.tool.unit)} {at.words} hung from the rim of a disc, "
            f"{quantity(at.hook, MILLIMETRE)} in radius: {torque_words(lever, at, run.tool.unit)}, "
            f"W {percent(lever.worth(at), 2)}."
            for at in lever.points
        ]
    if run.adjusted:
        turns = sum(s.turn or 0.0 for s in run.all_series)
        said.append(f"Adjusted between as found and as left, by {fixed(turns, 3, sign=True)} turns in all.")
    accepted = [f"{line.line}: {line.note}" for line in run.inspection if line.fine is False]
    said += [f"Accepted at the look-over: {words}." for words in accepted]
    if signature is not None and signature.outcome is not None and (tail := SIGNED_TAILS.get(signature.outcome)):
        said.append(tail)
    covered = span(min(s.target for s in run.found), max(s.target for s in run.found), run.tool.unit)
    said.append(f"It covers {covered}, and says nothing of the tool outside.")
    return tuple(said)


def _versions(session: Session, run: RunState) -> tuple[str, ...]:
    """Which version this is where a record was amended: both stay, and each names itself."""
    said = []
    if run.amends is not None:
        before = load(session, run.amends)
        said.append(
            f"An amendment that replaces certificate {certificate_number(before)}: {run.plan.note or 'no reason was kept'}."
        )
        changed = "; ".join(differences(before, run)) or "nothing that is judged"
        said.append(f"What is otherwise: {changed}.")
    if run.amended:
        said.append("A later amendment replaces this record.")
    return tuple(said)


def _signatures(run: RunState) -> tuple[tuple[str, str], ...]:
    signature = run.signature
    if signature is None:
        return ()
    lines = [("Signed", f"{signature.by}, {signature.on:%-d %b %Y}")]
    if signature.beside:
        lines.append(("Beside", signature.beside))
    if signature.due is not None:
        lines.append(("Due again", f"{signature.due:%-d %b %Y}"))
    if signature.link:
        lines.append(("Link", signature.link))
    return tuple(lines)


def _budget(run: RunState, found: Verdict, series: SeriesState, point: PointResult) -> BudgetTable:
    """Components that count nothing are named together beneath those that do."""
    budget = point.budget
    whole = budget.standard_uncertainty**2 or 1.0
    lines = tuple(
        BudgetLine(COMPONENT_WORDS[c.name], percent(c.value, 3), c.value**2 / whole)
        for c in budget.components
        if c.value
    )
    none = ", ".join(COMPONENT_WORDS[c.name].lower() for c in budget.components if not c.value)
    k = number(budget.coverage_factor)
    student = ", Student's" if found.decision.coverage is Coverage.STUDENT else ""
    total = (
        f"w {percent(budget.standard_uncertainty, 3)}; W {percent(budget.expanded_uncertainty, 3)} (k = {k}{student}); "
        f"W' {percent(budget.uncertainty_interval, 3)}; probability of conformity {fixed(point.decision.probability, 3)}."
        f"{f' Nothing for {none}.' if none else ''}"
    )
    return BudgetTable(f"Budget at {_where(run, series)}", lines, total)


def _levers(run: RunState, reference: ReferenceFacts) -> tuple[LeverPicture, ...]:
    """What hung at each point, where weights were on the tool's own lever."""
    lever = reference.hung
    if lever is None or lever.disc or lever.grip is None:
        return ()
    off = f" It stood {fixed(abs(math.degrees(lever.tilt)), 1)}° off level, which is counted." if lever.tilt else ""
    return tuple(
        LeverPicture(
            f"What hung for {at_target(at.target, run.tool.unit)}: {hung_words(lever, at)}",
            lever.grip,
            lever.pivot,
            at.hook,
            lever.own_centre or None,
            tuple(w.number for w in at.weights),
            f"It makes {torque_words(lever, at, run.tool.unit)}, W {percent(lever.worth(at), 2)}.{off}",
        )
        for at in lever.points
    )
