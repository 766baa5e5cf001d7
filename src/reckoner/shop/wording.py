"""Words for people: every sentence and label about results, effects, rules, outcomes and events, plain words first, the
standard's sign beside them. No code reads a sentence; kinds of event have theirs where they are declared (``events``).
"""

from __future__ import annotations

import math
from datetime import date
from enum import StrEnum

from reckoner.core.budget import EFFECT_NAMES, FEW_DEGREES, Budget, Effect, EffectWidth
from reckoner.core.characterisation import RANGE_FACTORS
from reckoner.core.comparison import ComparedChange, Comparison
from reckoner.core.days import day_words
from reckoner.core.deviation import shown_error
from reckoner.core.due import DueReason
from reckoner.core.kinds import ToolKind
from reckoner.core.printing import (
    THIN,
    decimals_for,
    fixed,
    number,
    ordinal,
    percent,
    quantity,
    reading_decimals,
    uncertainty_decimals,
)
from reckoner.core.rules import Rule
from reckoner.core.states import State
from reckoner.core.units import Unit
from reckoner.core.verdict import PointResult, Verdict
from reckoner.formats.languages import say
from reckoner.shop.checking import Beside, CheckFinding
from reckoner.shop.facts import MeasuredEffects, ReferenceFacts
from reckoner.shop.limits import limits_words
from reckoner.shop.procedures.base import Caution, Distrust
from reckoner.shop.runs.characterising import measured, measured_means
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.records import ObservationState, Phase, SeriesState, is_half, proves_outside
from reckoner.shop.runs.state import RunState
from reckoner.shop.toolfacts import ToolFacts
from reckoner.store.chain import Breach
from reckoner.store.terms import ObservationKind, Outcome


def plain_error(tool: ToolFacts, target: float, reading: float) -> str:
    """Such as "Clicks 1.1 % below its setting" or "Delivers 0.4 % less than it shows"."""
    error = shown_error(target, reading)
    amount, nothing = percent(abs(error), 1), round(abs(error), 3) == 0
    if tool.kind.is_setting:
        key = "at_setting" if nothing else "above_setting" if error > 0 else "below_setting"
        return say(f"error.{key}", signal=say(f"signal.{term_key(tool.mechanism)}"), amount=amount)
    return say(f"error.{'as_shown' if nothing else 'more' if error > 0 else 'less'}", amount=amount)


def term_key(term: StrEnum) -> str:
    """Under which key a term's words stand in the files of languages."""
    return term.value.replace("-", "_").replace(" ", "_")


def state_words(state: State) -> str:
    """A state in the language of the paper that is being made."""
    return say(f"state.{term_key(state)}")


def reading_figure(run: RunState, observation: ObservationState) -> str:
    """An observation's torque as it is shown large, in the tool's unit; "—" for one without."""
    return "—" if observation.torque is None else torque_figure(run, observation.torque)


def corrected_words(run: RunState, series: SeriesState, observation: ObservationState) -> str:
    """What a reading is less the reference's known error, such as "; 39.55 corrected"; empty where there is none."""
    if observation.torque is None or run.correction(series.target) == 1:
        return ""
    return f"; {torque_figure(run, observation.torque / run.correction(series.target))} corrected"


def torque_figure(run: RunState, torque: float) -> str:
    """A torque (N·m) of the run's reference as it is shown large, in the tool's unit."""
    step = run.reference.resolution if run.reference else 0.0
    return fixed(run.tool.unit.from_si(torque), reading_decimals(step, run.tool.unit))


def observation_words(run: RunState, series: SeriesState, observation: ObservationState) -> str:
    """One observation in plain words."""
    unit = run.tool.unit
    match observation.kind:
        case ObservationKind.VALUE:
            pair = series.pair_of(observation)
            if pair is None:
                return "Now: what did the tool show?" if series.awaiting is observation else ""
            told = f", which was {quantity(pair.tool, unit)}" if is_half(observation.detail) else ""
            return plain_error(run.tool, pair.tool, pair.reference) + told
        case ObservationKind.SHOWN:
            return f"The tool showed {quantity(observation.tool_value or 0.0, unit)}"
        case ObservationKind.NO_SIGNAL:
            return f"No signal up to {quantity(observation.torque or 0.0, unit)}"
        case ObservationKind.CLICKED:
            return f"Signalled at {quantity(observation.torque or 0.0, unit)}"
        case ObservationKind.SILENT:
            return f"Silent at {quantity(observation.torque or 0.0, unit)}"


def strike_words(run: RunState, series: SeriesState, observation: ObservationState) -> str:
    """Which observation would be struck, such as "59.8 N·m, the 2nd at 100 N·m"."""
    at = settable(run.tool.kind, series.target, run.tool.unit)
    if observation.kind in (ObservationKind.CLICKED, ObservationKind.SILENT, ObservationKind.SHOWN):
        words = observation_words(run, series, observation)
        return f"“{words[:1].lower()}{words[1:]}”, at {at}"
    place = [o.id for o in series.observations if o.kind is observation.kind].index(observation.id) + 1
    return f"{reading_figure(run, observation)} {run.tool.unit.symbol}, the {ordinal(place)} at {at}"


def came_words(run: RunState) -> str:
    """What it showed as it came, beside what was found once it was exercised; empty where it was not pulled so."""
    pulled = next((s for s in run.came if s.pairs), None)
    if pulled is None:
        return ""
    mean = sum(p.deviation for p in pulled.pairs) / len(pulled.pairs)
    aim = quantity(pulled.target, run.tool.unit)
    said = plain_error(run.tool, pulled.target, pulled.target / (1 + mean))
    found = next((s for s in run.found if s.target == pulled.target and s.pairs), None)
    if found is None:
        return say("said.came", error=said, target=aim)
    after = sum(p.deviation for p in found.pairs) / len(found.pairs)
    releases = sum(e.done for e in run.exercise if e.direction == found.direction)
    words = plain_error(run.tool, found.target, found.target / (1 + after))
    key = "said.came_then_one" if releases == 1 else "said.came_then"
    return say(key, error=said, target=aim, n=releases, after=f"{words[:1].lower()}{words[1:]}")


def one_sided_words(run: RunState, series: SeriesState) -> str:
    """What is known of a point that was proven outside from one side; empty for any other."""
    alone = [o for o in series.counted if proves_outside(o.detail)]
    if not alone:
        return ""
    worst = max(
        (p for o in alone if (p := series.pair_of(o)) is not None), key=lambda p: abs(p.deviation), default=None
    )
    if worst is None:
        return ""
    aim, reached = quantity(series.target, run.tool.unit), quantity(worst.reference, run.tool.unit)
    key = "said.no_signal" if worst.deviation < 0 else "said.signal"
    return say(key, target=aim, reached=reached, off=percent(abs(worst.deviation), 1))


def margin(magnitude: float, limit: float) -> str:
    """Such as "1.9 % to spare" or "0.4 % too much"; both fractions. Never rounds a miss to nothing."""
    spare = limit - magnitude
    decimals = 1
    while round(abs(spare) * 100, decimals) == 0 and decimals < 4 and spare != 0:
        decimals += 1
    return say("margin.spare" if spare >= 0 else "margin.much", amount=percent(abs(spare), decimals))


def point_sentence(tool: ToolFacts, point: PointResult) -> str:
    """One point in plain words: "Clicks 2.1 % below its setting at 60 N·m; inside, 1.9 % to spare"."""
    target, reading = _speaking_pair(point)
    words, aim = plain_error(tool, target, reading), quantity(point.target, tool.unit)
    state = point.decision.state
    if state in (State.COMPARED, State.UNDECIDED):
        return say(f"said.{state.value}", error=words, target=aim)
    left = margin(point.decision.looked_at, point.decision.limit)
    return say("said.decided", error=words, target=aim, state=state_words(state), margin=left)


def _speaking_pair(point: PointResult) -> tuple[float, float]:
    """Target and reading that the sentence is about: the worst reading, or the mean under the other rules."""
    if point.decision.rule is Rule.EVERY_READING:
        deviation = max(point.budget.deviations, key=abs)
    else:
        deviation = point.budget.deviation
    return point.target, point.target / (1 + deviation)


def run_sentence(tool: ToolFacts, verdict: Verdict) -> str:
    """The whole run in a sentence: that of its worst point."""
    return point_sentence(tool, verdict.worst)


FORMAL = {True: "formal.conforms", False: "formal.does_not", None: "formal.no_decision"}


def formal(verdict: Verdict, title: str, unit: Unit) -> str:
    """The wording for a record, beside the plain sentence; a shop check has no word of conformity."""
    if verdict.state is State.COMPARED:
        return say("formal.shop_check")
    return say(FORMAL[verdict.accepted], limit=limits_words(verdict.limits, unit), rules=title)


def rule_words(rule: Rule) -> str:
    return say(f"rule.{term_key(rule)}")


def settable(kind: ToolKind, target: float, unit: Unit) -> str:
    """A target as it is read on the tool, with as many decimals as its graduation."""
    step = unit.from_si(kind.resolution) if kind.resolution else 0.0
    value = unit.from_si(target)
    if not step or math.isclose(value, round(value), rel_tol=1e-9):
        return f"{number(value)}{THIN}{unit.symbol}"
    return f"{fixed(value, decimals_for(step))}{THIN}{unit.symbol}"


def component_words(name: str) -> str:
    """A line of a budget, by the component's name."""
    return say(f"budget.{name}")


EFFECT_WORDS = {
    Effect.REPRODUCIBILITY: "Remounting",
    Effect.OUTPUT_DRIVE: "Drive positions",
    Effect.INTERFACE: "Adapter positions",
    Effect.LOADING_POINT: "Hand ±10 mm",
}
"""What a characterisation can measure, to choose from."""

_MEASURED = {
    Effect.REPRODUCIBILITY: "reproducibility",
    Effect.OUTPUT_DRIVE: "drive positions",
    Effect.INTERFACE: "adapter positions",
    Effect.LOADING_POINT: "loading point",
}

RULE_CHOICES = {
    Rule.EVERY_READING: "every reading",
    Rule.MEAN: "the mean",
    Rule.GUARDED: "the mean, guarded",
    Rule.PROBABILITY: "probability",
}
"""The decision rules, to choose from."""

DUE_WORDS = {
    DueReason.NEVER_TESTED: "it has never been tested",
    DueReason.CALENDAR: "its interval ends",
    DueReason.CYCLES: "its cycles are used up",
    DueReason.EVENT: "something happened to it",
    DueReason.BROUGHT_FORWARD: "its date was brought forward to level the work",
    DueReason.BROUGHT_IN: "the record that was brought in says so",
}
"""What sets a due date; completes "due because …"."""

SIGNING_VERBS = {
    Outcome.RELEASED: "Sign",
    Outcome.HELD: "Hold, sign",
    Outcome.RESTRICTED: "Restrict, sign",
    Outcome.RETIRED: "Retire, sign",
    Outcome.KEEP_HOLDING: "Keep held, sign",
    Outcome.FULL_RUN: "Full run, sign",
    Outcome.CHARACTERISED: "Keep, sign",
    Outcome.COMPARED: "Compared, sign",
    Outcome.COMPARISON: "Keep, sign",
}
"""What the button says that signs with an outcome."""

_SAYS_NO_MORE = frozenset({Outcome.RELEASED, Outcome.RESTRICTED, Outcome.CHARACTERISED})


def signed_tail(outcome: Outcome | None) -> str:
    """What a signed run without a new due date says of its tool; empty where its date or range says it."""
    return "" if outcome is None or outcome in _SAYS_NO_MORE else say(f"outcome.{term_key(outcome)}")


CAUTION_WORDS = {
    Caution.HANGING_WEIGHTS: "Weights rated and tied, a stop under them, feet and head out of their fall. Eye protection.",
    Caution.CLAMP_THE_DRIVE: "Clamp the drive alone, in soft jaws, never the body.",
    Caution.LOADED_LEVER: "Do not stand in line with a loaded lever.",
    Caution.CAPACITY: "Do not go past the capacity of the tool, or of what measures it.",
    Caution.MAKER_RULES: "The maker's instructions rule.",
    Caution.NUT: "The nut must surely hold more than the test torque, and nothing may turn; a vice is better.",
}

NEED_WORDS = {
    Need.LINES: "{left} of {of} to look at",
    Need.REFERENCE: "reference",
    Need.ROOM: "room",
    Need.ZERO: "zero",
    Need.POINTER: "the tool's pointer",
    Need.RELEASES: "{left} to go",
    Need.ANSWER: "an answer",
    Need.READINGS: "{left} readings to go",
    Need.ZERO_AFTER: "zero after the series",
    Need.POINTER_AFTER: "the pointer's zero",
    Need.ROOM_AGAIN: "the room again",
    Need.TURN: "turn, read, lock",
    Need.SIGNATURE: "signature",
}


def want_words(wants: tuple[Want, ...]) -> str:
    """What a step still wants, such as "room, zero"."""
    return ", ".join(NEED_WORDS[w.need].format(left=w.left, of=w.of) for w in wants)


def phase_words(phase: Phase) -> str:
    """Such as "as found", "as left" or "as left 2"."""
    words = say(f"phase.{term_key(phase.kind)}")
    return f"{words} {phase.round}" if phase.round > 1 else words


def place_words(effect: Effect, place: int) -> str:
    """One place at which an effect is measured, such as "drive at 90°"."""
    match effect:
        case Effect.REPRODUCIBILITY:
            return f"remounted, {place + 1} of 4"
        case Effect.OUTPUT_DRIVE:
            return f"drive at {place * 90}°"
        case Effect.INTERFACE:
            return f"adapter at {place * 90}°"
        case Effect.LOADING_POINT:
            return ("hand 10 mm nearer", "hand 10 mm further out")[place]


def distrust_words(found: Distrust, reference: ReferenceFacts | None) -> str:
    """Why a reference may not decide."""
    from reckoner.shop.procedures import PROCEDURES  # their papers are made of these words

    number_of_reference = reference.number if reference is not None else ""
    return {
        Distrust.NOT_CHOSEN: "no reference was chosen",
        Distrust.CERTIFICATE_ENDED: f"the certificate of {number_of_reference} had ended",
        Distrust.UNPROVEN: PROCEDURES[reference.kind].papers.why_unproven(reference) if reference is not None else "",
        Distrust.ZERO_MOVED: f"{number_of_reference} did not come back to its zero, so the series is suspect",
    }[found]


def effects_words(found: MeasuredEffects) -> str:
    """Where a budget's b values come from; empty when nothing was characterised."""
    if found.on is None:
        return ""
    return f"characterisation of {'its model' if found.of_model else 'this tool'}, {day_words(found.on)}"


def freedom_words(freedom: float) -> str:
    """Degrees of freedom; whole ones, and more than a hundred, without decimals."""
    return "∞" if math.isinf(freedom) else fixed(freedom, 0 if freedom >= 100 or freedom == round(freedom) else 1)


def few_sentence(budget: Budget) -> str:
    """What is to be said of W where a few readings stand behind it; empty where k = 2 says enough."""
    if not budget.says_too_little:
        return ""
    _, wider = budget.student
    of_range = any(c.name in EFFECT_NAMES and c.degrees_of_freedom < FEW_DEGREES for c in budget.components if c.value)
    also = ", and what few means tell," if of_range else ""
    return (
        f"With {len(budget.deviations)} readings{also} k = 2 says too little (ν {freedom_words(budget.degrees_of_freedom)}): "
        f"by Student's t, W is {percent(wider, 2)} instead of {percent(budget.expanded_uncertainty, 2)}."
    )


def characterised_sentence(run: RunState) -> str:
    """Such as "Reproducibility 0.42 N·m (range 0.25 of 4 means, d₂ 2.059; ν 2.9) at 40 N·m"."""
    effects, means, unit = measured(run), measured_means(run), run.tool.unit
    said = []
    for effect, words in _MEASURED.items():
        found: EffectWidth | None = getattr(effects, effect.value)
        if found is not None:
            seen = means[effect]
            spread = unit.from_si(max(seen) - min(seen))
            told = f"ν {freedom_words(found.degrees_of_freedom)}"
            if effect is not Effect.LOADING_POINT:
                ranged = fixed(spread, uncertainty_decimals(spread))
                told = f"range {ranged} of {len(seen)} means, d₂ {RANGE_FACTORS[len(seen)]}; {told}"
            said.append(f"{words} {quantity(found.b, unit, uncertainty_decimals(unit.from_si(found.b)))} ({told})")
    words = ", ".join(said)
    return f"{words[:1].upper()}{words[1:]} at {quantity(run.all_series[0].target, unit)}"


def comparison_sentence(found: Comparison, since: date, where: str = "") -> str:
    """Such as "Reads 2.3 % higher than on 9 Mar 2026 (1.9 % to 2.7 %): changed"; ``where`` leads."""
    amount = percent(abs(found.difference), 1)
    low, high = sorted((abs(found.low_95), abs(found.high_95)))
    if found.low_95 < 0 < found.high_95:
        interval = f"{percent(found.low_95, 1, sign=True)} to {percent(found.high_95, 1, sign=True)}"
    else:
        interval = f"{percent(low, 1)} to {percent(high, 1)}"
    way = f"{amount} {'higher than' if found.difference > 0 else 'lower than'}"
    if round(abs(found.difference), 3) == 0:
        way = "the same as"
    tail = {
        ComparedChange.UNCHANGED: "no change that matters",
        ComparedChange.CHANGED: "changed",
        ComparedChange.CANNOT_TELL: f"cannot tell; {found.readings_needed} readings on each side would",
    }[found.change]
    lead = f"{where}: reads" if where else "Reads"
    return f"{lead} {way} on {day_words(since)} ({interval}): {tail}"


FINDING_WORDS: dict[Breach | Beside, str] = {
    Breach.CHANGED: "link {place}: {what} is not what was kept; it was changed afterwards",
    Breach.MISSING: "link {place}: {what} is gone",
    Breach.INSERTED: "{what} was put in past the chain",
    Breach.LINK: "between link {before} and link {place} the chain is broken: a link was changed, taken out or put in",
    Beside.STANDING: "{what} stands otherwise than its records say; “reckoner rebuild” makes that anew",
    Beside.LISTING: "{what} is listed otherwise than the register says; “reckoner rebuild” makes that anew",
    Beside.OPEN_RUN: "{what} is marked as open though it is over, or the other way round",
    Beside.REGISTER: "{what}: its row is not what its versions make of it; it was changed past the register",
    Beside.UNSEALED: "{what} bears no seal, though its signer had a passphrase by then",
    Beside.SEAL: "{what}: its seal does not fit what is kept of the run",
}


def finding_sentence(finding: CheckFinding) -> str:
    """What is not as it was kept, such as "Link 41: run 7 of HC-0417 is gone."."""
    said = FINDING_WORDS[finding.wrong].format(what=finding.what, place=finding.place, before=finding.place - 1)
    return f"{said[0].upper()}{said[1:]}."
