"""Takes what the meter brings: one and the same for exercise, readings and adjusting.

A signal is shown at once, and is provisional: what is kept is what the whole pull says once it is over, and its trace with
it, by the pull's id. What a person should be told of the pull stands in ``feedback``; a sound is played only for what was
committed.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.quantities.printing import fixed, percent, quantity, reading_decimals
from reckoner.core.quantities.units import Unit
from reckoner.core.requirements.tooltypes import Direction, MeterMode
from reckoner.core.trace.event import Fault
from reckoner.core.translation import tr
from reckoner.meters.pull import Pull, Signalled
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedure import NewObservation
from reckoner.shop.runs import taking
from reckoner.shop.runs.asking import FIRST_RELEASE
from reckoner.shop.runs.records import READING_STEPS, ObservationState, SeriesState, Step
from reckoner.shop.runs.state import RunState
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.sounds import Sounds
from reckoner.ui.work import call

if TYPE_CHECKING:
    from reckoner.ui.bench.panel import RunChange

LEAST_PULL = 0.3
"""A pull that stays below this fraction of the target is a touch, and nothing is said about it."""

WORTH_SAYING = 0.05
"""Over-travel above this fraction is said to the person who pulls."""

MOST_READINGS = 20
"""Readings that are taken of one pull at most."""

SHOWN_EARLY = 8.0
"""Seconds for which what a tool sends before its pull is over waits for that."""

Do = Callable[..., None]


@dataclass(frozen=True)
class Feedback:
    """What is told of the last pull: ``notice`` is a fault or a refusal, ``hand`` how the hand did, ``faults`` those that are
    offered as the reason to strike it; ``provisional`` is the torque (N·m) of a signal whose pull is not over yet;
    ``silent_to`` is how far a pull went that gave no signal."""

    notice: str = ""
    hand: str = ""
    faults: tuple[Fault, ...] = ()
    provisional: float | None = None
    silent_to: float | None = None


class ReadingIntake(QObject):
    """Signal ``told()`` when the feedback changed. ``do`` commits a change of the run, as ``panel.Desk.do`` does."""

    told = pyqtSignal()

    def __init__(
        self,
        parent: QObject,
        do: Do,
        act: Callable[[], Act],
        sounds: Sounds,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__(parent)
        self._clock = clock
        self._early: tuple[NewObservation, float] | None = None
        self._do, self._act = do, act
        self._sounds = sounds
        self._run: RunState | None = None
        self.feedback = Feedback()

    def stand_at(self, run: RunState | None) -> None:
        """The run as it stands now. A reading that was added is told by its sound, once it is committed."""
        before, self._run = self._run, run
        fresh = run is None or before is None or before.id != run.id
        if fresh or run is None or before is None:
            self._early = None
            self._tell(Feedback())
        elif taken(run) > taken(before):
            self._tell(Feedback())
            self._sounds.play(_sound(before, run))
        self._take_early()

    def target(self) -> float:
        """The target of the next pull in N·m."""
        run = self._run
        return 1.0 if run is None else target_of(run)

    # What the meter brings

    def signalled(self, signal: Signalled) -> None:
        """A signal shows while the hand still pulls: tell it; nothing is kept before the pull is over."""
        run = self._run
        if run is None:
            return
        counted = run.step is Step.EXERCISE and not run.exercise_apart
        if counted or run.step is Step.ADJUST or (run.step in READING_STEPS and run.current is not None):
            self._tell(replace(self.feedback, provisional=signal.torque))

    def pulled(self, pull: Pull) -> None:
        """The pull is over: count releases or take readings, file its trace, and say how it was."""
        run = self._run
        if run is None or run.step not in (*READING_STEPS, Step.EXERCISE, Step.ADJUST):
            return
        self._tell(replace(self.feedback, provisional=None))
        readings = pull.readings[: _wanted(run)]
        if not readings:
            self._early = None
            if pull.highest > LEAST_PULL * self.target():
                self._nothing_taken(run, pull)
            return
        for number, torque in enumerate(readings, start=1):
            last = number == len(readings)
            pulled = pull.id if number == 1 else f"{pull.id}/{number}"
            done = partial(self._say_hand, run, pull) if last else None
            self._take(torque, Source.TRACE, pull.turned, pulled, done, pull if last else None)

    def valued(self, torque: float) -> None:
        """The meter caught a value itself; a negative one was pulled counter-clockwise."""
        self._take(abs(torque), Source.METER, None if torque >= 0 else Direction.CCW, None)

    def shown(self, torque: float) -> None:
        """The tool sent what its display shows; what comes before its pull is over waits for that."""
        self._show_kept(taking.shown(abs(torque), Source.TOOL), self.notice)

    def typed_shown(self, torque: float, done: Callable[[], None], refused: Callable[[str], None]) -> None:
        """A person typed what the tool's display shows, in N·m."""
        self._show_kept(taking.shown(torque), refused, done)

    def _show_kept(
        self, seen: NewObservation, refused: Callable[[str], None], done: Callable[[], None] | None = None
    ) -> None:
        run = self._run
        if run is None or not run.paired or run.current is None:
            return
        pull, value = run.awaiting, seen.tool_value
        if pull is None and seen.source is Source.TOOL:
            self._early = (seen, self._clock())
        else:
            self._do(
                call(taking.observe, run.id, seen, self._act(), run),
                done=done,
                refused=refused,
                torque=value,
            )

    def _take_early(self) -> None:
        """Once the pull is kept, what the tool sent before belongs to it, unless that was long ago."""
        if self._early is not None and self._run is not None and self._run.awaiting is not None:
            (seen, at), self._early = self._early, None
            if self._clock() - at <= SHOWN_EARLY:
                self._show_kept(seen, self.notice)

    def typed(self, torque: float, done: Callable[[], None], refused: Callable[[str], None]) -> None:
        """A person typed a reading in N·m."""
        run = self._run
        if run is not None:
            self._do(
                call(taking.observe, run.id, taking.typed(torque), self._act(), run),
                done=done,
                refused=refused,
                torque=torque,
            )

    def notice(self, words: str) -> None:
        """Tell a fault or a refusal."""
        self._tell(replace(self.feedback, notice=words))

    # Striking

    def strike(self, struck: tuple[SeriesState, ObservationState], reason: str, *, last: bool = True) -> None:
        """Strike a reading of the phase that is open; of answers that make one together, the ``last`` alone or all."""
        run, (series, observation) = self._run, struck
        if run is not None:
            self._early = None
            self._tell(Feedback())
            ids = (observation.id,) if last else series.behind(observation)
            self._do(call(taking.strike, run.id, ids, reason, self._act()))

    def strike_first_releases(self) -> None:
        """Strike the first releases of a series as what they were: exercise."""
        run = self._run
        found = next(((s, f) for s in run.series if (f := s.first_releases())), None) if run else None
        if run is not None and found is not None:
            series, first = found
            ids = tuple(p.observation_id for p in series.pairs[: first.count])
            self._do(call(taking.strike, run.id, ids, FIRST_RELEASE, self._act()))

    # Inside

    def _take(
        self,
        torque: float,
        source: Source,
        turned: Direction | None,
        pull: str | None,
        done: Callable[[], None] | None = None,
        filed: Pull | None = None,
    ) -> None:
        """Take one torque; ``filed`` with the trace of the pull that it, and what was taken before it, came from."""
        run = self._run
        if run is None:
            return
        change: RunChange | None = None
        if run.step is Step.EXERCISE and run.exercise_apart:
            self.notice(
                tr(
                    "Nothing was counted: exercise goes past what {number} bears. Take the tool off it, and count "
                    "each release with Enter.",
                    number=run.reference.number if run.reference else tr("it"),
                )
            )
        elif run.step is Step.EXERCISE:
            change = call(taking.record_exercise, run.id, torque, self._act(), turned)
        elif run.step is Step.ADJUST or (run.step in READING_STEPS and run.current is not None):
            seen = NewObservation(ObservationKind.VALUE, torque, source, turned, pull)
            change = call(taking.observe_pull, run, seen, filed, self._act())
        if change is not None:
            self._do(change, done=done, refused=self.notice, torque=None if run.step is Step.EXERCISE else torque)

    def _nothing_taken(self, run: RunState, pull: Pull) -> None:
        unit = run.tool.unit
        if Fault.CLIPPED in pull.faults:
            top = quantity(pull.highest, unit)
            self.notice(
                tr(
                    "The meter could not show more than {top}, so the signal was not seen. Nothing was taken; use "
                    "a reference that reaches higher.",
                    top=top,
                )
            )
        elif Fault.SAMPLES_LOST in pull.faults:
            self.notice(
                tr(
                    "Samples were lost on the way from the meter, and the signal may have been among them. "
                    "Nothing was taken; look to the cable, and pull again."
                )
            )
        elif run.meter_mode is MeterMode.HOLD:
            self.notice(tr("No plateau was found. Nothing was taken; bring it to the mark and hold it for a second."))
        else:
            self._tell(
                replace(
                    self.feedback,
                    notice="Let go before it signalled. Nothing was taken; pull again.",
                    silent_to=pull.highest,
                )
            )
        self._sounds.play("refused")

    def _say_hand(self, run: RunState, pull: Pull) -> None:
        """Feedback on the pull, apart from the reading: over-travel, what was made good, and faults with striking offered."""
        over, took = pull.over_travel, pull.time_80_to_100
        told = self.feedback
        said = _made_good(pull, run.tool.unit)
        if over is not None and over > WORTH_SAYING and run.tool.kind.is_setting and pull.announced:
            said.append(
                tr(
                    "Your hand went {over} past the signal; stop as soon as {until}.",
                    over=percent(over, 0),
                    until=run.tool.implies.until,
                )
            )
        if left := len(pull.readings) - _wanted(run):
            said += [tr("{left} more of this pull were not wanted.", left=left)] if left > 0 else []
        told = replace(told, hand=" ".join(said))
        faults = tuple(f for f in pull.faults if f not in (Fault.NO_SIGNAL, Fault.KNOCK, Fault.SAMPLES_LOST))
        if faults and run.step is not Step.EXERCISE:
            seconds = tr(" ({took} s from 80 %)", took=fixed(took, 1)) if took is not None else ""
            words = tr(
                "A bad pull: {fault_words}{seconds}. Backspace and Enter strike it; it is yours to decide.",
                fault_words=fault_words(faults),
                seconds=seconds,
            )
            told = replace(told, notice=words, faults=faults)
            self._sounds.play("refused")
        self._tell(told)

    def _tell(self, told: Feedback) -> None:
        if told != self.feedback:
            self.feedback = told
            self.told.emit()


def fault_words(faults: tuple[Fault, ...]) -> str:
    """Such as "too fast, jerk"."""
    return ", ".join(tr(f) for f in faults)


def _made_good(pull: Pull, unit: Unit) -> list[str]:
    """What of a pull was put right: a zero that was taken off, with both numbers, a knock that was cut out, samples that
    are not missed."""
    said = []
    event = pull.event
    if event is not None and event.zero and event.first_peak is not None:
        shown, read = (quantity(torque, unit) for torque in (event.first_peak + event.zero, event.first_peak))
        zero = fixed(unit.from_si(event.zero), reading_decimals(0.0, unit), sign=True)
        said.append(
            tr(
                "The meter stood {zero} off zero: it showed {shown}, {read} without that.",
                zero=zero,
                shown=shown,
                read=read,
            )
        )
    if Fault.KNOCK in pull.faults:
        said.append(tr("A knock was cut out of it."))
    if Fault.SAMPLES_LOST in pull.faults:
        said.append(tr("Samples were lost on the way from the meter, away from the signal."))
    return said


def _wanted(run: RunState) -> int:
    """How many readings of one pull the run can take: a slip tool gives several."""
    if run.step is Step.EXERCISE:
        return max(1, run.exercising.wanted - run.exercising.done) if run.exercising else 1
    return max(1, run.current.missing) if run.step in READING_STEPS and run.current is not None else MOST_READINGS


def target_of(run: RunState) -> float:
    """The target of the run's next pull in N·m."""
    if run.step is Step.EXERCISE:
        return run.exercise_target
    if run.adjusting is not None:
        return run.adjusting.target
    return (run.current or run.series[-1]).target


def taken(run: RunState) -> int:
    """How many observations and releases a run has."""
    return sum(len(s.observations) for s in run.all_series) + sum(e.done for e in run.exercise)


def _sound(before: RunState, run: RunState) -> str:
    """What a reading that was added sounds like: another way where it is asked about, or completes its series."""
    if len(run.asked) > len(before.asked):
        return "refused"
    return "series" if _completed(before, run) else "taken"


def _completed(before: RunState, run: RunState) -> bool:
    """Whether a series became complete."""
    missing = {s.id: s.missing for s in before.series}
    return run.step is not Step.ADJUST and any(not s.missing and missing.get(s.id, 0) for s in run.series)
