"""What stands on the papers of the Desk and the Setting place: reviews, job cards, setting cards."""

from __future__ import annotations

import math

from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import fixed, percent, quantity, span
from reckoner.core.quantities.units import DEGREE
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.tightening.jobs import EntryKind, Fasteners, JobStep, Layout, StepKind, steps
from reckoner.core.tightening.setting import BandPlace
from reckoner.core.translation import tr
from reckoner.formats.papers.contents import Dots, PaperSheet, SheetTable
from reckoner.formats.papers.settingcard_pdf import SettingCard
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.using.cards import AIM_WORDS, PATTERN_WORDS, fasteners_words
from reckoner.shop.using.reviews import ReviewFacts, line_words
from reckoner.shop.using.setting import SettingAnswer
from reckoner.shop.using.works import (
    StageSetting,
    WorkState,
    entry_words,
    question_words,
    running_band,
)
from reckoner.shop.words.settings import sentence, set_words, torque_figure
from reckoner.store.reader import Reader

RULES = tr(
    "The joint's maker and their service instructions rule. Lifting gear, brakes, pressure and "
    "steering want the licensed person's sign-off."
)
PROBABLY = tr(
    "What was probably delivered is reckoned from the deviation as it was found, interpolated "
    "between the tested settings; it is no measurement of the joint."
)


ONE_COLUMN = 24
"""Fasteners that stand under each other on one page; more stand in two halves."""


def shop_lines(reader: Reader) -> tuple[str, str, bytes]:
    """The shop's name, address and picture, as they head a sheet."""
    row = reader.row("SELECT id, name, address FROM shop ORDER BY id LIMIT 1")
    if row is None:
        return "", "", b""
    logo = reader.row(
        "SELECT c.data FROM attachment a JOIN content c ON c.digest = a.digest "
        "WHERE a.of_kind = 'shop' AND a.of_id = :shop AND NOT a.removed "
        "AND lower(a.name) LIKE 'logo.%' ORDER BY a.id DESC LIMIT 1",
        shop=row.id,
    )
    return row.name, row.address, bytes(logo.data) if logo is not None else b""


def review_paper(reader: Reader, found: ReviewFacts) -> PaperSheet:
    """A review with its lines and what became of each."""
    shop, address, logo = shop_lines(reader)
    rows = []
    for i, (line, done) in enumerate(zip(found.lines, found.settled, strict=True)):
        use = line.use
        back = tr(" to {back}", back=day_words(use.back)) if use.back is not None else tr(", still out")
        what = " · ".join(w for w in (use.to, use.job, use.joint) if w)
        settled = f"{done.note} ({done.by}, {day_words(done.on)})" if done is not None else ""
        rows.append(
            (str(i + 1), f"{day_words(use.on)}{back}", what, line_words(line, found.unit), _FALLS[line.falls], settled)
        )
    table = SheetTable(
        tr("What it was used for"),
        (
            "",
            tr("When"),
            tr("Who, and for what"),
            tr("What the joint probably got"),
            tr("Falls"),
            tr("Settled: how, by whom"),
        ),
        (0.04, 0.14, 0.17, 0.33, 0.1, 0.22),
        tuple(rows),
        (5,),
    )
    points = ", ".join(
        tr(
            "{deviation} ±{expanded_uncertainty} at {setting}",
            deviation=percent(p.deviation, 1, sign=True),
            expanded_uncertainty=percent(p.expanded_uncertainty, 1),
            setting=quantity(p.setting, found.unit),
        )
        for p in found.points
    )
    since = day_words(found.since) if found.since is not None else tr("never known to be good")
    return PaperSheet(
        title=tr("What was spoiled"),
        number=tr("{tool}, review {id}", tool=found.tool, id=found.id),
        shop=shop,
        address=address,
        sentence=found.sentence,
        facts=(
            (tr("Begun"), f"{day_words(found.begun)}, {found.by}"),
            (tr("By"), f"{found.basis}: {points}"),
            (tr("Last good"), since),
            (tr("To be checked too"), ", ".join(found.siblings)),
            (tr("Closed"), found.closed),
        ),
        tables=(table,),
        notes=(PROBABLY, RULES),
        logo=logo,
    )


_FALLS = {BandPlace.INSIDE: tr("inside"), BandPlace.OUTSIDE: "OUTSIDE", BandPlace.CANNOT_TELL: tr("cannot tell")}


# Setting cards


def setting_card(found: SettingAnswer) -> SettingCard:
    """What a person takes along to the joint. Raises ShopRefused where nothing can be promised."""
    ask, tool = found.ask, found.ask.tool
    if found.gets is None or not found.promises:
        raise ShopRefused(tr("{sentence} A card would promise it.", sentence=sentence(found)))
    words = set_words(tool, found.setting, ask.unit)
    verb = tr("Set") if tool is None or tool.kind.is_setting else tr("Stop at")
    lines = []
    if tool is not None:
        lines.append(tr("on {number}", number=tool.number))
    lines += [tr("with the {words}", words=one.words) for one in ask.fitted]
    band = span(ask.band.low, ask.band.high, ask.unit)
    lines.append(
        tr("the joint gets {torque_figure} of {band}", torque_figure=torque_figure(found.gets, ask.unit), band=band)
    )
    by = tr("by its {by}", by=ask.known.by) if ask.known is not None else tr("as it reads")
    return SettingCard(
        lead=f"{verb} {words}",
        lines=tuple(lines),
        grip=ask.length,
        hand=ask.hand,
        adapters=tuple((one.length, one.angle_rad) for one in ask.fitted),
        foot=tr("{by}; f = {factor}. The joint's maker rules.", by=by, factor=fixed(found.factor, 4)),
    )


# Job cards


def dots(fasteners: Fasteners, order: tuple[int, ...]) -> Dots:
    """Where the fasteners stand: round a circle clockwise from the top, in rows, or one list along rows."""
    n = fasteners.count
    match fasteners.layout:
        case Layout.CIRCLE:
            angles = [2 * math.pi * i / n for i in range(n)]
            places = tuple((math.sin(a), -math.cos(a)) for a in angles)
        case Layout.ROWS:
            places = tuple(_in_grid(i, fasteners.rows, fasteners.columns) for i in range(n))
        case Layout.LIST:
            columns = math.ceil(math.sqrt(n))
            places = tuple(_in_grid(i, math.ceil(n / columns), columns) for i in range(n))
    return Dots(places, fasteners.names, order, ring=fasteners.layout is Layout.CIRCLE)


def _in_grid(i: int, down: int, across: int) -> tuple[float, float]:
    y, x = divmod(i, across)
    wide, high = max(1, across - 1), max(1, down - 1)
    most = max(wide, high)
    return (2 * x - (across - 1)) / most, (2 * y - (down - 1)) / most


def card_paper(
    reader: Reader, card: JobCard, settings: tuple[StageSetting, ...], work: WorkState | None = None, snug: str = ""
) -> PaperSheet:
    """A job card to be worked from by hand, or one that was worked through, with what was entered; ``snug`` says what the
    torque before its angle does to the clamp, where that is known."""
    shop, address, logo = shop_lines(reader)
    plan = card.plan
    made = steps(plan)
    heads = [tr("Which"), *(_step_head(card, step) for step in made)]
    shares = [0.12, *([0.88 / len(made)] * len(made))]
    rows = []
    for number in plan.order:  # as they are worked through
        name = plan.fasteners.names[number - 1]
        rows.append((name, *(_cell(work, i, step, number) for i, step in enumerate(made))))
    boxes = tuple(range(1, len(made) + 1))
    band = span(plan.band.low, plan.band.high, card.unit)
    return PaperSheet(
        title=tr("Job card"),
        number=card.number,
        shop=shop,
        address=address,
        sentence=f"{card.title or card.number}: {fasteners_words(plan.fasteners)}, {band}.",
        facts=_card_facts(card, settings),
        tables=(SheetTable("", tuple(heads), tuple(shares), tuple(rows), boxes, halved=len(rows) > ONE_COLUMN),),
        pattern=dots(plan.fasteners, plan.order),
        notes=tuple(
            words for words in (*_past_bands(work), *_slackened(work), snug or _first_stage(card), RULES) if words
        ),
        signatures=_signed(work),
        logo=logo,
    )


def _card_facts(card: JobCard, settings: tuple[StageSetting, ...]) -> tuple[tuple[str, str], ...]:
    plan = card.plan
    stages = tuple(
        (tr("Stage {i}", i=i + 1), _stage_words(card, share, settings[i] if i < len(settings) else StageSetting()))
        for i, share in enumerate(plan.stages)
    )
    band = span(plan.band.low, plan.band.high, card.unit)
    aim = (
        ""
        if plan.band.is_one
        else tr(
            ", aimed at {aim_words}: {wanted}", aim_words=AIM_WORDS[plan.aim], wanted=quantity(plan.wanted, card.unit)
        )
    )
    return (
        (tr("Where"), card.place),
        (tr("Fasteners"), fasteners_words(plan.fasteners)),
        (tr("Order"), PATTERN_WORDS[plan.pattern]),
        (tr("Torque"), f"{band}{aim}"),
        (tr("Why there"), card.reason),
        *stages,
        (
            tr("Then"),
            "; ".join(filter(None, (tr("turn on by {angle}", angle=quantity(plan.angle, DEGREE)), card.marks)))
            if plan.angle is not None
            else "",
        ),
        (tr("Running torque"), running_band(card)),
        (tr("Lubricant"), card.lubricant),
        (tr("Past its band"), tr(plan.over)),
        (tr("Instructions"), card.instructions),
    )


def _past_bands(work: WorkState | None) -> tuple[str, ...]:
    if work is None or not work.stand.over:
        return ()
    if len(work.stand.asked) <= MOST_ASKED:
        return tuple(question_words(work, question) for question in work.stand.asked)
    names = ", ".join(work.name(f) for f in work.stand.over)
    count = len(work.stand.asked)
    return (tr("{count} values lie past their bands and were not seen to: at {names}.", count=count, names=names),)


MOST_ASKED = 3
"""Values past their band that are told one by one."""


def _first_stage(card: JobCard) -> str:
    if card.plan.angle is None:
        return ""
    return tr("An error of the last torque before the angle carries into the clamp: that stage wants the better tool.")


def _stage_words(card: JobCard, share: float, setting: StageSetting) -> str:
    torque = f"{percent(share, 0)}, {quantity(card.plan.wanted * share, card.unit)}"
    if not setting.tool or setting.why_not:
        return f"{torque}. {setting.why_not}".rstrip(". ")
    with_ = tr(" with the {adapter}", adapter=setting.adapter) if setting.adapter else ""
    return tr(
        "{torque}: {tool} set to {words}{with_}", torque=torque, tool=setting.tool, words=setting.words, with_=with_
    )


def _step_head(card: JobCard, step: JobStep) -> str:
    match step.kind:
        case StepKind.TIGHTEN:
            return f"{percent(step.share, 0)} · {quantity(step.torque or 0.0, card.unit)}"
        case StepKind.LAST:
            return tr("last pass")
        case StepKind.ANGLE:
            return f"+{quantity(card.plan.angle or 0.0, DEGREE)}"
        case StepKind.RUNNING:
            return tr("running torque: on least, most; off least, most")
        case StepKind.LOCK:
            return tr("before and after locking")
        case StepKind.MEASURE:
            return tr("measured")
        case StepKind.NEW_BOLT:
            return tr("new bolt")


_SHORT = {
    EntryKind.RUNNING_ON_LEAST: tr("on ≥"),
    EntryKind.RUNNING_ON_MOST: tr("on ≤"),
    EntryKind.RUNNING_OFF_LEAST: tr("off ≥"),
    EntryKind.RUNNING_OFF_MOST: tr("off ≤"),
    EntryKind.BEFORE_LOCK: tr("before"),
    EntryKind.AFTER_LOCK: tr("after"),
}


def _cell(work: WorkState | None, at: int, step: JobStep, fastener: int) -> str:
    """What was entered at a fastener in a pass; empty where nothing was, to be written in."""
    if work is None:
        return ""
    said = []
    for entry in work.stand.of_fastener(fastener):
        if entry.step != at or entry.kind in (EntryKind.SLACKENED, EntryKind.REPLACED):
            continue
        if entry.kind in (EntryKind.DONE, EntryKind.NEW_BOLT):
            said.append("done")
        elif step.kind is StepKind.RUNNING and entry.kind in _SHORT:
            said.append(f"{_SHORT[entry.kind]} {entry_words(work, entry)}")
        elif entry.value is not None:
            words = entry_words(work, entry)
            said.append(f"{_SHORT[entry.kind]} {words}" if entry.kind in _SHORT else words)
    return "; ".join(said)


def _slackened(work: WorkState | None) -> tuple[str, ...]:
    if work is None:
        return ()
    again, said = (EntryKind.SLACKENED, EntryKind.REPLACED, EntryKind.TIGHTENED_ON), []
    for one in work.entries:
        name = work.name(one.entry.fastener)
        if one.entry.kind in again:
            said.append(tr("{name} was {value} and done again.", name=name, value=tr(one.entry.kind)))
        elif one.entry.kind is EntryKind.KEPT:
            said.append(tr("{name} was kept as it is: {note}.", name=name, note=one.note))
    return tuple(said)


def _signed(work: WorkState | None) -> tuple[tuple[str, str], ...]:
    if work is None:
        return ((tr("Done by, on"), ""), (tr("Signature"), ""))
    begun = tr("{begun} by {by}", begun=day_words(work.begun), by=work.by)
    return ((tr("Begun"), begun), (tr("Ended"), work.closed or tr("still open")))
