"""Readings that are asked about before they count: which, in what words, and the answers. Pure, from a run.

Every reading is kept at once, so that none is lost; while one of a series is asked about, nothing is concluded from the
series. When to ask stands in ``core.decision.suspect``.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from statistics import fmean, median

from reckoner.core.decision.suspect import FirstReleases, Suspicion, is_far_off, lies_at, standing_apart
from reckoner.core.quantities.checks import at_most
from reckoner.core.quantities.printing import enumerated, percent
from reckoner.core.requirements.rules import Rule
from reckoner.core.translation import tr, tr_count
from reckoner.shop.runs.records import ObservationState, Pair, ReadingQuestion, SeriesState, proves_outside, shown_of
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.results import settable, torque_figure
from reckoner.store.terms import ObservationKind, ReadingOwner, Source


@dataclass(frozen=True)
class Strikes:
    """An answer: they are struck, for this ``reason``."""

    reason: str


@dataclass(frozen=True)
class KeepReadings:
    """An answer: they count."""

    whose: ReadingOwner


def asked(run: RunState) -> tuple[ReadingQuestion, ...]:
    """What is asked now; nothing of a run that is over. What stands apart comes last: it may be right, and stand apart from
    readings with which the tool was not set again."""
    if run.signed or run.abandoned:
        return ()
    came = () if any(e.done for e in run.exercise) else run.came
    counting = run.adjusting.steps if run.adjusting else run.series
    made = [one for series in (*came, *counting) for one in _of_series(run, series)]
    return tuple(sorted(made, key=lambda one: (one.why is Suspicion.STANDS_APART, one.ids[0])))


def _of_series(run: RunState, series: SeriesState) -> Iterator[ReadingQuestion]:
    """Readings that would lie at the same other point are asked about together, and so are those that are as far off."""
    together: dict[tuple[Suspicion, float | None], list[ObservationState]] = {}
    first = series.first_releases() if run.tool.kind.is_setting else None
    early = [p.observation_id for p in series.pairs[: first.count]] if first is not None else []
    fresh: list[ObservationState] = []
    for observation, why, of in _suspects(run, series):
        if why is Suspicion.STANDS_APART and observation.id in early:
            fresh.append(observation)
        elif why is Suspicion.STANDS_APART:
            yield ReadingQuestion(series, (observation,), why)
        else:
            together.setdefault((why, of), []).append(observation)
    if fresh:
        yield ReadingQuestion(series, tuple(fresh), Suspicion.STANDS_APART, first=first)
    for (why, of), alike in together.items():
        yield ReadingQuestion(series, tuple(alike), why, of)


def _suspects(run: RunState, series: SeriesState) -> Iterator[tuple[ObservationState, Suspicion, float | None]]:
    by_id = {o.id: o for o in series.observations}
    plain = [p for p in series.pairs if not proves_outside(by_id[p.observation_id].detail)]
    limit = run.limit(series.target)
    apart = standing_apart(series.target, [_reading(series, p) for p in plain], limit)
    others = sorted({s.target for s in run.series}) if run.procedure.one_pull_tells else []
    for index, pair in enumerate(plain):
        observation = by_id[pair.observation_id]
        if observation.kept is not None:
            continue
        other, shown = lies_at(series.target, pair.reference, limit, others), _shown(series, observation)
        why = Suspicion.STANDS_APART if index in apart else None
        if other is not None:
            why = Suspicion.NOT_SET_AGAIN
        elif shown is not None and is_far_off(pair.reference, pair.tool):
            observation, why = shown, Suspicion.FAR_OFF
        elif run.procedure.one_pull_tells and is_far_off(series.target, pair.reference):
            why = Suspicion.FAR_OFF
        if why is not None and not _said_already(series, observation, pair, why, limit):
            yield observation, why, other


def _reading(series: SeriesState, pair: Pair) -> float:
    """A pair as a reading of the target, as ``SeriesState.readings``."""
    return series.target * pair.reference / pair.tool


def _shown(series: SeriesState, pulled: ObservationState) -> ObservationState | None:
    """What the tool's display showed of a pull."""
    return next(
        (o for o in series.counted if o.kind is ObservationKind.SHOWN and shown_of(o.detail) == pulled.id), None
    )


def _said_already(series: SeriesState, observation: ObservationState, pair: Pair, why: Suspicion, limit: float) -> bool:
    """Whether it was kept itself, or reads as one that was kept for the same reason: a person is asked once."""
    if observation.kept is not None:
        return True
    if why is Suspicion.STANDS_APART:
        return False
    kept = (series.pair_of(series.pull_of(o)) for o in series.counted if o.kept is not None and o.kept.why is why)
    return any(k is not None and abs(k.reference - pair.reference) <= limit * series.target for k in kept)


# In words


def asked_words(run: RunState, one: ReadingQuestion) -> str:
    """The question, such as "59.8 N·m lies at 60 N·m, and 100 N·m is tested: is 60 N·m still set?"."""
    kind, series, unit = run.tool.kind, one.series, run.tool.unit
    aim, shown = settable(kind, series.target, unit), _listed(run, one)
    match one.why:
        case Suspicion.NOT_SET_AGAIN:
            at = settable(kind, one.of or series.target, unit)
            still = tr("is {at} still set?", at=at) if kind.is_setting else tr("was it pulled to {at}?", at=at)
            return tr_count(
                "{shown} lies at {at}, and {aim} is tested: {still}",
                "{shown} lie at {at}, and {aim} is tested: {still}",
                len(one.readings), shown=shown, at=at, aim=aim, still=still,
            )  # fmt: skip
        case Suspicion.STANDS_APART if one.first is not None:
            words = tr("At {aim} {first_words} Exercise it more?", aim=aim, first_words=first_words(one.first))
            return words + _both_ways(run, one)
        case Suspicion.STANDS_APART:
            others = median(_value(series, p) for p in series.pairs if p.observation_id not in one.ids)
            around = tr("the others lie about {torque_figure}", torque_figure=torque_figure(run, others))
            words = tr(
                "At {aim} one pull stands apart: {shown}; {around}. Was it the setting, the hand or the tool?",
                aim=aim,
                shown=shown,
                around=around,
            )
            return words + _both_ways(run, one)
        case Suspicion.FAR_OFF if _is_shown(one):
            read = torque_figure(run, series.pull_of(one.readings[0]).torque or 0.0)
            return tr("Did the tool show {shown} where {read} was read?", shown=shown, read=read)
        case Suspicion.FAR_OFF:
            return tr_count(
                "{shown} is far from {aim}. Is it set to {aim}, and was that its pull?",
                "{shown} are far from {aim}. Is it set to {aim}, and were those its pulls?",
                len(one.readings), shown=shown, aim=aim,
            )  # fmt: skip


def _both_ways(run: RunState, one: ReadingQuestion) -> str:
    """What the series says with the readings that are asked about, and without them, until that is answered; nothing of an
    adjustment under way, nor where too few are left, nor where nothing is decided."""
    series, reference = one.series, run.reference
    without = [p for p in series.pairs if p.observation_id not in one.ids]
    judges = run.policy.judges and reference is not None and reference.proven
    if run.adjusting is not None or len(without) < LEAST_LEFT or not judges:
        return ""
    limit = run.limit(series.target)

    def says(pairs: Sequence[Pair]) -> str:
        deviations = [p.deviation for p in pairs]
        looked_at = fmean(deviations)
        if run.decision.rule is Rule.EVERY_READING:
            looked_at = max(deviations, key=abs)
        place = tr("inside") if at_most(abs(looked_at), limit) else tr("outside")
        return tr("{place}, {mean} in the mean", place=place, mean=percent(fmean(deviations), 1, sign=True))

    it = tr("them") if len(one.readings) > 1 else tr("it")
    return tr(" With {it}: {both}; without: {rest}.", it=it, both=says(series.pairs), rest=says(without))


LEAST_LEFT = 2
"""Readings that have to be left to say something without those in question."""


def answers(run: RunState, one: ReadingQuestion) -> tuple[tuple[Strikes | KeepReadings, str], ...]:
    """What can be answered, each with the words on its button."""
    it = tr("them") if len(one.readings) > 1 else tr("it")
    ways: list[tuple[Strikes | KeepReadings, str]] = []
    if all(o.source is Source.TYPED and o.kind in PLAIN for o in one.readings):
        ways.append((Strikes(tr("typed wrongly")), tr("Type {it} again", it=it)))
    if not _is_shown(one):
        ways.append((Strikes(reason := _reason(run, one)), tr("Strike {it}: {reason}", it=it, reason=reason)))
    ways.append((KeepReadings(ReadingOwner.UNSAID), tr("Keep {it}", it=it)))
    ways.append((KeepReadings(ReadingOwner.TOOL), tr("Keep {it}: the tool did that", it=it)))
    return tuple(ways)


FIRST_RELEASE = tr("first release after rest, counts as exercise")


def first_words(first: FirstReleases) -> str:
    """How first releases stand apart, such as "the first is 2.1 % higher than those that follow."."""
    which = tr_count("the first is", "the first two are", first.count)
    return tr("{which} {excess} higher than those that follow.", which=which, excess=percent(first.excess, 1))


PLAIN = (ObservationKind.VALUE, ObservationKind.SHOWN)
"""Observations that are a value; the others are answers of which several make one."""


def _reason(run: RunState, one: ReadingQuestion) -> str:
    """Why it is struck, where that was it."""
    match one.why:
        case Suspicion.NOT_SET_AGAIN:
            at = settable(run.tool.kind, one.of or one.series.target, run.tool.unit)
            return tr("{at} was still set", at=at) if run.tool.kind.is_setting else tr("pulled to {at}", at=at)
        case Suspicion.STANDS_APART if one.first is not None:
            return FIRST_RELEASE
        case Suspicion.STANDS_APART | Suspicion.FAR_OFF:
            return tr("the hand or the setting")


def _is_shown(one: ReadingQuestion) -> bool:
    """Whether what the tool's display showed is asked about."""
    return one.readings[0].kind is ObservationKind.SHOWN


def _listed(run: RunState, one: ReadingQuestion) -> str:
    """The readings asked about, such as "59.8 and 60.1 N·m"."""
    figures = [torque_figure(run, _shown_value(one.series, o)) for o in one.readings]
    return f"{enumerated(figures)} {run.tool.unit.symbol}"


def _shown_value(series: SeriesState, observation: ObservationState) -> float:
    """What of an observation is said, in N·m."""
    if observation.kind is ObservationKind.SHOWN:
        return observation.tool_value or 0.0
    pair = series.pair_of(observation)
    return _value(series, pair) if pair is not None else observation.torque or 0.0


def _value(series: SeriesState, pair: Pair) -> float:
    """What was read; against weights, whose torque is known, where the tool tripped."""
    of = next(o for o in series.observations if o.id == pair.observation_id)
    return of.torque if of.kind is ObservationKind.VALUE and of.torque is not None else pair.tool
