"""A signed run as a certificate: every word and figure on it, from the run's own records and facts."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import fixed, number, percent, quantity, span
from reckoner.core.requirements.rules import Coverage
from reckoner.core.translation import ENGLISH, tr
from reckoner.formats.languages import in_language, say, written
from reckoner.formats.papers.contents import (
    BudgetLine,
    BudgetTable,
    CertificatePaper,
    FencePicture,
    PhaseTable,
    PointRow,
)
from reckoner.formats.resultfile import digest_of
from reckoner.shop.facts.judged import ReferenceFacts, scale_words
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.numbering import certificate_number
from reckoner.shop.papers.resultfiles import record_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.procedure import Distrust
from reckoner.shop.procedures.papers import PAPERS
from reckoner.shop.register.attachments import logo
from reckoner.shop.runs.amending import differences
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.outcomes import by_owner, good_part
from reckoner.shop.runs.records import SeriesState, is_half
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import (
    came_words,
    component_words,
    formal,
    one_sided_words,
    rule_words,
    run_sentence,
    settable,
    signed_tail,
    state_words,
    term_key,
    torque_figure,
)
from reckoner.store.schema import Shop
from reckoner.store.terms import Outcome, PhaseKind

Block = tuple[str, tuple[tuple[str, str], ...]]
"""A title, and its named lines."""
LONGEST = 240
"""Characters of a line that find room in a block; a remark may be as long as a person likes."""
BEYOND_COUNTING = 1000.0
"""More degrees of freedom than this change no coverage factor that is written."""


def certificate_of(session: Session, run: RunState) -> CertificatePaper:
    """All that stands on it, in the language that the shop chose. Raises ShopRefused for a run that is not signed, or that
    measured and judged nothing."""
    signature, reference, found = run.signature, run.reference, judged(run).verdict
    if signature is None:
        raise ShopRefused(tr("Sign the run first; a certificate is of what was signed."))
    if reference is None or found is None:
        raise ShopRefused(
            tr("Nothing was measured in this run that could be certified; its record stays under its tool.")
        )
    if not run.policy.judges:
        raise ShopRefused(
            tr("A {lower} has no certificate; what it found stands under its tool.", lower=run.policy.words.lower())
        )
    shop = session.scalar(select(Shop).order_by(Shop.id).limit(1)) or Shop(name="", address="", language=ENGLISH)
    amends = certificate_number(load(session, run.amends)) if run.amends is not None else ""
    digest = digest_of(record_of(run, amends))
    with in_language(shop.language):
        return _certificate(session, run, shop, reference, found, digest)


def _certificate(
    session: Session, run: RunState, shop: Shop, reference: ReferenceFacts, found: Verdict, digest: str
) -> CertificatePaper:
    compared = found.state is State.COMPARED
    kind = say(f"kind.{run.kind.value}")
    title = say("title.shop_check" if compared else "title.test" if run.policy.renews else "title.record", kind=kind)
    said = formal(found, run.rules.title, run.tool.unit)
    if not compared:
        said = say("formal.by_rule", formal=said, rule=rule_words(found.decision.rule))
    blocks, told_below = _in_lines(
        (
            (say("block.tool"), _tool(run)),
            (say("block.reference"), PAPERS[run.facts.kind].rows(run, reference)),
            (say("block.method"), _method(run)),
            (say("block.room"), _room(run, " ".join(shop.address.split()))),
        )
    )
    mark = f"{certificate_number(run)} {run.tool.number} {digest}"
    return CertificatePaper(
        title=title,
        number=certificate_number(run),
        shop=shop.name,
        address=shop.address,
        language=shop.language,
        blocks=blocks,
        statement=f"{run_sentence(run.tool, found)}.",
        formal=f"{said}.",
        phases=_phases(run),
        remarks=(*told_below, *_remarks(run), *_departures(run), *_versions(session, run)),
        signatures=(*_signatures(run), (say("name.file"), f"SHA-256 {digest}")),
        notes=(
            *((say("note.shop_check"),) if compared else (*_traceable(reference), _risk(run, found))),
            say("note.record"),
        ),
        mark=mark,
        budgets=()
        if compared
        else tuple(_budget(run, found, s, p) for s, p in zip(run.series, found.points, strict=True)),
        levers=PAPERS[run.facts.kind].pictures(run),
        logo=logo(session),
        end=say("note.end", number=certificate_number(run)),
    )  # fmt: skip


def _in_lines(blocks: tuple[Block, ...]) -> tuple[tuple[Block, ...], tuple[str, ...]]:
    """The blocks with every line short enough for its place, and as remarks what is too long for one."""
    below = tuple(f"{name}: {words}" for _title, lines in blocks for name, words in lines if len(words) > LONGEST)
    kept = tuple(
        (title, tuple((name, words if len(words) <= LONGEST else say("page.below")) for name, words in lines))
        for title, lines in blocks
    )
    return kept, below


def _tool(run: RunState) -> tuple[tuple[str, str], ...]:
    tool = run.tool
    return (
        (say("name.number"), tool.number),
        (say("name.maker"), tool.maker),
        (say("name.model"), tool.model_name),
        (say("name.serial"), tool.serial),
        (say("name.kind"), kind_words(tool)),
        (say("name.range"), tool.range_text),
        (say("name.resolution"), quantity(tool.kind.resolution, tool.unit) if tool.kind.resolution else ""),
        (say("name.scale"), scale_words(tool)),
        (say("name.owner"), tool.owner),
    )


def kind_words(tool: ToolFacts) -> str:
    """Such as "click wrench, ½ in, Type II class A"."""
    return say(
        "tool.kind",
        mechanism=say(f"mechanism.{term_key(tool.mechanism)}"),
        body=say("tool.screwdriver" if tool.kind.is_screwdriver else "tool.wrench"),
        drive=f", {tool.drive}" if tool.drive else "",
        type=tool.kind.type.value,
        class_=tool.kind.class_,
    )


def _method(run: RunState) -> tuple[tuple[str, str], ...]:
    exercised = "method.releases" if run.tool.kind.is_setting else "method.pulls"
    directions = dict.fromkeys(s.direction for s in run.found)
    days = sorted({o.at.date() for s in run.all_series for o in s.observations})
    return (
        (say("name.tested"), " – ".join(dict.fromkeys(written(day) for day in (*days[:1], *days[-1:])))),
        (say("name.rules"), run.rules.title),
        (say("name.approach"), say(f"way.{term_key(run.tool.approach)}")),
        (say("name.exercise"), say(exercised, n=sum(e.done for e in run.exercise))),
        (say("name.directions"), ", ".join(say(f"way.{d.value}") for d in directions)),
        (say("name.fitting"), run.plan.adapter),
        (say("name.otherwise"), run.plan.note),
    )


def _room(run: RunState, place: str) -> tuple[tuple[str, str], ...]:
    room = run.room
    if room is None:
        told = say("method.unmeasured") if run.room_said else ""
        return ((say("name.place"), place), (say("name.temperature"), told))
    own = run.tool.own_units
    temperature = own.temperature_words(room.temperature)
    if room.drift:
        temperature = say("method.drift", temperature=temperature, drift=own.degrees_words(room.drift, 1))
    return (
        (say("name.place"), place),
        (say("name.temperature"), temperature),
        (say("name.humidity"), percent(room.humidity, 0)),
        (say("name.remark"), room.note),
    )


def _phases(run: RunState) -> tuple[PhaseTable, ...]:
    made = []
    for series, verdict in judged(run).phases:
        left = say("phase.left" if series[0].phase.kind is PhaseKind.LEFT else "phase.found")
        sentence = "" if len(judged(run).phases) == 1 else f"{run_sentence(run.tool, verdict)}."
        rows = tuple(_row(run, one, point) for one, point in zip(series, verdict.points, strict=True))
        made.append(PhaseTable(f"{left[:1].upper()}{left[1:]}", rows, sentence))
    return tuple(made)


def _where(run: RunState, series: SeriesState) -> str:
    direction = f" {series.direction}" if len(run.tool.directions) > 1 else ""
    return f"{settable(run.tool.kind, series.target, run.tool.unit)}{direction}"


def _readings(run: RunState, series: SeriesState) -> tuple[list[float], str]:
    """What was read, N·m, and in words: the reference's where the tool's value is set, else the tool's and what it was held
    against."""

    def figures(values: list[float]) -> str:
        return ", ".join(torque_figure(run, value) for value in values)

    tool, actual = ([getattr(pair, side) for pair in series.pairs] for side in ("tool", "reference"))
    if any(is_half(o.detail) for o in series.counted):
        return actual, say("table.showed", readings=figures(actual), shown=figures(tool))
    if {torque_figure(run, value) for value in tool} == {torque_figure(run, series.target)}:
        return actual, figures(actual)
    held = dict.fromkeys(torque_figure(run, value) for value in actual)
    return tool, say("table.against", readings=figures(tool), held=", ".join(held))


def _row(run: RunState, series: SeriesState, point: PointResult) -> PointRow:
    budget = point.budget
    freedom = budget.degrees_of_freedom
    nu = f"{freedom:.0f}" if freedom < BEYOND_COUNTING else "∞"
    values, readings = _readings(run, series)
    known = point.decision.state is not State.COMPARED
    worth = f"{percent(budget.expanded_uncertainty, 2)} ({number(budget.coverage_factor)}, {nu})"
    return PointRow(
        target=_where(run, series),
        readings=readings,
        mean=torque_figure(run, sum(values) / len(values)),
        deviation=percent(budget.deviation, 2, sign=True),
        uncertainty=worth if known else "—",
        limit=printing.limit(point.decision.limit),
        state=state_words(point.decision.state),
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
    said += PAPERS[run.facts.kind].remarks(run)
    if run.adjusted:
        turns = sum(s.turn or 0.0 for s in run.all_series)
        said.append(say("remark.adjusted", turns=fixed(turns, 3, sign=True)))
    if run.inspection:
        odd = [f"{line.line}: {line.note}" for line in run.inspection if line.fine and line.note]
        wrong = [line.line for line in run.inspection if line.fine is False]
        state = "; ".join((*wrong, *odd)) or say("remark.sound", n=len(run.inspection))
        said.append(say("remark.received", state=state))
    accepted = [f"{line.line}: {line.note}" for line in run.inspection if line.fine is False]
    said += [say("remark.accepted", line=words) for words in accepted]
    if signature is not None and (tail := signed_tail(signature.outcome)):
        said.append(tail)
    found = judged(run).verdict
    if signature is not None and found is not None and by_owner(run, found):
        said.append(say("remark.by_owner", why=signature.note))
    if signature is not None and signature.outcome is Outcome.RESTRICTED and (part := _good_part(run)) is not None:
        said.append(say("remark.restricted", span=span(*part, run.tool.unit)))
    covered = span(min(s.target for s in run.found), max(s.target for s in run.found), run.tool.unit)
    said.append(say("remark.covers", span=covered))
    return tuple(said)


def _departures(run: RunState) -> tuple[str, ...]:
    """What was otherwise than the rule set has it, with the reasons that were given at the bench."""
    said = []
    if judged(run).distrust is Distrust.ROOM_NOT_MEASURED:
        said.append(say("remark.no_room", rules=run.rules.title))
    if run.set_up is not None and run.set_up.override:
        said.append(say("remark.departed", why=run.set_up.override))
    judged_series = [s for s in run.all_series if s.phase.kind in (PhaseKind.FOUND, PhaseKind.LEFT)]
    struck = [o for s in judged_series for o in s.observations if o.struck]
    if struck:
        reasons = "; ".join(dict.fromkeys(o.struck for o in struck))
        said.append(say("remark.struck" if len(struck) > 1 else "remark.struck_one", n=len(struck), reasons=reasons))
    kept = sum(o.kept is not None and not o.struck for s in judged_series for o in s.observations)
    if kept:
        said.append(say("remark.kept" if kept > 1 else "remark.kept_one", n=kept))
    return tuple(said)


def _traceable(reference: ReferenceFacts) -> tuple[str, ...]:
    """What the result's chain to the units goes by, as far as it is known."""
    if not reference.points or not reference.laboratory:
        return ()
    issued = say("note.issued", issued=written(reference.issued)) if reference.issued else ""
    paper = ", ".join(words for words in (reference.certificate_number, reference.laboratory, issued) if words)
    return (say("note.traceable", reference=reference.number, paper=paper),)


def _risk(run: RunState, found: Verdict) -> str:
    """The decision rule with its risk in words."""
    return say(
        f"risk.{term_key(found.decision.rule)}",
        rule=rule_words(found.decision.rule),
        level=percent(run.rules.decision.level, 0),
    )


def _good_part(run: RunState) -> tuple[float, float] | None:
    found = judged(run).verdict
    return good_part(found) if found is not None else None


def _versions(session: Session, run: RunState) -> tuple[str, ...]:
    """Which version this is where a record was amended: both stay, and each names itself."""
    said = []
    if run.amends is not None:
        before = load(session, run.amends)
        why = run.plan.note or say("remark.no_reason")
        said.append(say("remark.amends", number=certificate_number(before), why=why))
        changed = "; ".join(differences(before, run)) or say("remark.nothing")
        said.append(say("remark.otherwise", changed=changed))
    if run.amended:
        said.append(say("remark.amended"))
    return tuple(said)


def _signatures(run: RunState) -> tuple[tuple[str, str], ...]:
    signature = run.signature
    if signature is None:
        return ()
    lines = [(say("name.issued"), written(signature.on)), (say("name.signed"), signature.by)]
    if signature.beside:
        lines.append((say("name.beside"), signature.beside))
    if signature.due is not None:
        lines.append((say("name.due"), written(signature.due)))
    if signature.link:
        lines.append((say("name.link"), signature.link))
    return tuple(lines)


def _budget(run: RunState, found: Verdict, series: SeriesState, point: PointResult) -> BudgetTable:
    """Components that count nothing are named together beneath those that do."""
    budget = point.budget
    whole = budget.standard_uncertainty**2 or 1.0
    lines = tuple(
        BudgetLine(component_words(c.name), percent(c.value, 3), c.value**2 / whole)
        for c in budget.components
        if c.value
    )
    none = ", ".join(component_words(c.name) for c in budget.components if not c.value)
    total = say(
        "budget.total_student" if found.decision.coverage is Coverage.STUDENT else "budget.total",
        w=percent(budget.standard_uncertainty, 3),
        W=percent(budget.expanded_uncertainty, 3),
        k=number(budget.coverage_factor),
        interval=percent(budget.uncertainty_interval, 3),
        probability=fixed(point.decision.probability, 3),
    )
    nothing = say("budget.none", names=none) if none else ""
    return BudgetTable(say("budget.title", where=_where(run, series)), lines, f"{total} {nothing}".strip())
