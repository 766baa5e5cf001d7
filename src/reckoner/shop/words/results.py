"""Words for people: every sentence and label about results, effects, rules, outcomes and events, plain words first, the
standard's sign beside them. No code reads a sentence; kinds of event have theirs where they are declared (``events``).
"""

from __future__ import annotations

import math
from datetime import date
from enum import StrEnum

from reckoner.core.decision.conformity import shown_error
from reckoner.core.decision.states import State
from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.history.comparison import ComparedChange, Comparison
from reckoner.core.history.due import DueReason
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import (
    THIN,
    decimals_for,
    fixed,
    number,
    ordinal,
    percent,
    quantity,
    reading_decimals,
)
from reckoner.core.quantities.units import Unit
from reckoner.core.requirements.rules import Rule
from reckoner.core.requirements.tooltypes import ToolKind
from reckoner.core.translation import tr
from reckoner.formats.languages import say
from reckoner.shop.facts.judged import ReferenceFacts
from reckoner.shop.facts.limits import limits_words
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedure import Caution, Distrust
from reckoner.shop.procedures.papers import PAPERS
from reckoner.shop.records.checking import CheckFinding, ProjectionFault
from reckoner.shop.runs.needs import Need, Want
from reckoner.shop.runs.records import ObservationState, Phase, SeriesState, is_half, proves_outside
from reckoner.shop.runs.state import RunState
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
    return tr(
        "; {torque_figure} corrected",
        torque_figure=torque_figure(run, observation.torque / run.correction(series.target)),
    )


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
                return tr("Now: what did the tool show?") if series.awaiting is observation else ""
            told = tr(", which was {tool}", tool=quantity(pair.tool, unit)) if is_half(observation.detail) else ""
            return plain_error(run.tool, pair.tool, pair.reference) + told
        case ObservationKind.SHOWN:
            return tr("The tool showed {tool_value}", tool_value=quantity(observation.tool_value or 0.0, unit))
        case ObservationKind.NO_SIGNAL:
            return tr("No signal up to {torque}", torque=quantity(observation.torque or 0.0, unit))
        case ObservationKind.CLICKED:
            return tr("Signalled at {torque}", torque=quantity(observation.torque or 0.0, unit))
        case ObservationKind.SILENT:
            return tr("Silent at {torque}", torque=quantity(observation.torque or 0.0, unit))


def strike_words(run: RunState, series: SeriesState, observation: ObservationState) -> str:
    """Which observation would be struck, such as "59.8 N·m, the 2nd at 100 N·m"."""
    at = settable(run.tool.kind, series.target, run.tool.unit)
    if observation.kind in (ObservationKind.CLICKED, ObservationKind.SILENT, ObservationKind.SHOWN):
        words = observation_words(run, series, observation)
        return tr("“{lower}{words}”, at {at}", lower=words[:1].lower(), words=words[1:], at=at)
    place = [o.id for o in series.observations if o.kind is observation.kind].index(observation.id) + 1
    return tr(
        "{reading_figure} {symbol}, the {ordinal} at {at}",
        reading_figure=reading_figure(run, observation),
        symbol=run.tool.unit.symbol,
        ordinal=ordinal(place),
        at=at,
    )


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


RULE_CHOICES = {
    Rule.EVERY_READING: tr("every reading"),
    Rule.MEAN: tr("the mean"),
    Rule.GUARDED: tr("the mean, guarded"),
    Rule.PROBABILITY: tr("probability"),
}
"""The decision rules, to choose from."""

DUE_WORDS = {
    DueReason.NEVER_TESTED: tr("it has never been tested"),
    DueReason.CALENDAR: tr("its interval ends"),
    DueReason.CYCLES: tr("its cycles are used up"),
    DueReason.EVENT: tr("something happened to it"),
    DueReason.BROUGHT_FORWARD: tr("its date was brought forward to level the work"),
    DueReason.BROUGHT_IN: tr("the record that was brought in says so"),
}
"""What sets a due date; completes "due because …"."""

SIGNING_VERBS = {
    Outcome.RELEASED: tr("Sign"),
    Outcome.HELD: tr("Hold, sign"),
    Outcome.RESTRICTED: tr("Restrict, sign"),
    Outcome.RETIRED: tr("Retire, sign"),
    Outcome.KEEP_HOLDING: tr("Hold, sign"),
    Outcome.FULL_RUN: tr("Full run, sign"),
    Outcome.CHARACTERISED: tr("Keep, sign"),
    Outcome.COMPARED: tr("Compared, sign"),
    Outcome.COMPARISON: tr("Keep, sign"),
}
"""What the button says that signs with an outcome."""


def undecided_words(run: RunState, found: Verdict, distrust: Distrust | None) -> str:
    """Why nothing was decided, or what a tool outside may have done; empty where neither is."""
    if not run.policy.judges:
        return ""
    if distrust is not None:
        lead = tr("A shop check") if distrust is Distrust.UNPROVEN else tr("No decision")
        return f"{lead}: {distrust_words(distrust, run.reference)}."
    if not found.reference_adequate:
        return tr("No decision: the reference is not good enough for this tool.")
    if found.accepted is False:
        return tr(
            "It must not be used as it is; what it tightened since its last good result may have to be "
            "looked at again, as the joint's maker says."
        )
    return ""


_SAYS_NO_MORE = frozenset({Outcome.RELEASED, Outcome.RESTRICTED, Outcome.CHARACTERISED})


def signed_tail(outcome: Outcome | None) -> str:
    """What a signed run without a new due date says of its tool; empty where its date or range says it."""
    return "" if outcome is None or outcome in _SAYS_NO_MORE else say(f"outcome.{term_key(outcome)}")


CAUTION_WORDS = {
    Caution.HANGING_WEIGHTS: tr(
        "Weights rated and tied, a stop under them, feet and head out of their fall. Eye protection."
    ),
    Caution.CLAMP_THE_DRIVE: tr("Clamp the drive alone, in soft jaws, never the body."),
    Caution.LOADED_LEVER: tr("Do not stand in line with a loaded lever."),
    Caution.CAPACITY: tr("Do not go past the capacity of the tool, or of what measures it."),
    Caution.MAKER_RULES: tr("The maker's instructions rule."),
    Caution.IN_LINE: tr(
        "Hold the meter in line by its own body, square over what holds it: a side load reads wrong and can break it."
    ),
    Caution.NUT: tr("The nut must surely hold more than the test torque, and nothing may turn; a vice is better."),
    Caution.IN_PARTS: tr(
        "More hangs than one person lifts at once: hang it in parts, one after the other, and take it off so; two of you, or "
        "a hoist, for any single one above 25 kg (55 lb)."
    ),
}

NEED_WORDS = {
    Need.LINES: tr("{left} of {of} to look at"),
    Need.REFERENCE: tr("reference"),
    Need.ROOM: tr("room"),
    Need.ZERO: tr("zero"),
    Need.POINTER: tr("the tool's pointer"),
    Need.RELEASES: tr("{left} to go"),
    Need.ANSWER: tr("an answer"),
    Need.READINGS: tr("{left} readings to go"),
    Need.ZERO_AFTER: tr("zero after the series"),
    Need.POINTER_AFTER: tr("the pointer's zero"),
    Need.ROOM_AGAIN: tr("the room again"),
    Need.TURN: tr("turn, read, lock"),
    Need.SIGNATURE: tr("signature"),
}


def want_words(wants: tuple[Want, ...]) -> str:
    """What a step still wants, such as "room, zero"."""
    return ", ".join(NEED_WORDS[w.need].format(left=w.left, of=w.of) for w in wants)


def phase_words(phase: Phase) -> str:
    """Such as "as found", "as left" or "as left 2"."""
    words = say(f"phase.{term_key(phase.kind)}")
    return f"{words} {phase.round}" if phase.round > 1 else words


def distrust_words(found: Distrust, reference: ReferenceFacts | None) -> str:
    """Why a reference may not decide."""
    number_of_reference = reference.number if reference is not None else ""
    return {
        Distrust.NOT_CHOSEN: tr("no reference was chosen"),
        Distrust.CERTIFICATE_ENDED: tr(
            "the certificate of {number_of_reference} had ended", number_of_reference=number_of_reference
        ),
        Distrust.UNPROVEN: PAPERS[reference.kind].why_unproven(reference) if reference is not None else "",
        Distrust.ROOM_NOT_MEASURED: tr("the room was not measured, and the rule set asks for it"),
        Distrust.ZERO_MOVED: tr(
            "{number_of_reference} did not come back to its zero, so the series is suspect",
            number_of_reference=number_of_reference,
        ),
    }[found]


def comparison_sentence(found: Comparison, since: date, where: str = "") -> str:
    """Such as "Reads 2.3 % higher than on 9 Mar 2026 (1.9 % to 2.7 %): changed"; ``where`` leads."""
    amount = percent(abs(found.difference), 1)
    low, high = sorted((abs(found.low_95), abs(found.high_95)))
    if found.low_95 < 0 < found.high_95:
        interval = tr(
            "{low_95} to {high_95}",
            low_95=percent(found.low_95, 1, sign=True),
            high_95=percent(found.high_95, 1, sign=True),
        )
    else:
        interval = tr("{low} to {high}", low=percent(low, 1), high=percent(high, 1))
    way = tr("{amount} {which}", amount=amount, which=tr("higher than") if found.difference > 0 else tr("lower than"))
    if round(abs(found.difference), 3) == 0:
        way = tr("the same as")
    tail = {
        ComparedChange.UNCHANGED: tr("no change that matters"),
        ComparedChange.CHANGED: tr("changed"),
        ComparedChange.CANNOT_TELL: tr(
            "cannot tell; {readings_needed} readings on each side would", readings_needed=found.readings_needed
        ),
    }[found.change]
    lead = tr("{where}: reads", where=where) if where else tr("Reads")
    return tr(
        "{lead} {way} on {since} ({interval}): {tail}",
        lead=lead,
        way=way,
        since=day_words(since),
        interval=interval,
        tail=tail,
    )


FINDING_WORDS: dict[Breach | ProjectionFault, str] = {
    Breach.CHANGED: tr("link {place}: {what} is not what was kept; it was changed afterwards"),
    Breach.MISSING: tr("link {place}: {what} is gone"),
    Breach.INSERTED: tr("{what} was put in past the chain"),
    Breach.LINK: tr(
        "between link {before} and link {place} the chain is broken: a link was changed, taken out or put in"
    ),
    ProjectionFault.STANDING: tr("{what} stands otherwise than its records say; “reckoner rebuild” makes that anew"),
    ProjectionFault.LISTING: tr(
        "{what} is listed otherwise than the register says; “reckoner rebuild” makes that anew"
    ),
    ProjectionFault.OPEN_RUN: tr("{what} is marked as open though it is over, or the other way round"),
    ProjectionFault.REGISTER: tr(
        "{what}: its row is not what its versions make of it; it was changed past the register"
    ),
    ProjectionFault.BROKEN: tr("{what}; nothing that follows from it was looked at"),
    ProjectionFault.UNREADABLE: tr("{what} cannot be read; nothing that follows from it was looked at"),
    ProjectionFault.GONE: tr("{what} is gone"),
    ProjectionFault.OTHERWISE: tr("{what} is not what was kept; it was changed afterwards"),
    ProjectionFault.UNVERSIONED: tr("{what} was put in past the register: no version tells of it"),
    ProjectionFault.UNSEALED: tr("{what} bears no seal, though its signer had a passphrase by then"),
    ProjectionFault.SEAL: tr("{what}: its seal does not fit what is kept of the run"),
}


def finding_sentence(finding: CheckFinding) -> str:
    """What is not as it was kept, such as "Link 41: run 7 of HC-0417 is gone."."""
    said = FINDING_WORDS[finding.wrong].format(what=finding.what, place=finding.place, before=finding.place - 1)
    return f"{said[0].upper()}{said[1:]}."
