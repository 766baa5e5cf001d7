"""Takes what the meter brings: one and the same for exercise, readings and adjusting.

A signal is kept at once, its trace when the pull is over, by the pull's id. What a person should be told of the pull stands
in ``feedback``; a sound is played only for what was committed.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from PyQt6.QtCore import QObject, pyqtSignal

from reckoner.core.kinds import Direction, MeterMode
from reckoner.core.printing import fixed, percent
from reckoner.core.trace import Fault
from reckoner.meters.pull import Pull, Signalled
from reckoner.shop.acts import Act
from reckoner.shop.procedures.base import Seen
from reckoner.shop.runs import setting_up, taking
from reckoner.shop.runs.state import RunState
from reckoner.shop.runs.steps import READINGS, Step, newest
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.sounds import Sounds

if TYPE_CHECKING:
    from sqlalchemy.orm import Session

    from reckoner.ui.bench.panel import Deed

LEAST_PULL = 0.3
"""A pull that stays below this fraction of the target is a touch, and nothing is said about it."""

WORTH_SAYING = 0.05
"""Over-travel above this fraction is said to the person who pulls."""

FIRST_RELEASE = "first release after rest, counts as exercise"

Do = Callable[..., None]


@dataclass(frozen=True)
class Feedback:
    """What is told of the last pull: ``notice`` is a fault or a refusal, ``hand`` how the hand did, ``faults`` those that are
    offered as the reason to strike it."""

    notice: str = ""
    hand: str = ""
    faults: tuple[Fault, ...] = ()


class Taker(QObject):
    """Signal ``told()`` when the feedback changed. ``do`` commits a change of the run, as ``panel.Desk.do`` does."""

    told = pyqtSignal()

    def __init__(self, parent: QObject, do: Do, sounds: Sounds) -> None:
        super().__init__(parent)
        self._do = do
        self._sounds = sounds
        self._run: RunState | None = None
        self.feedback = Feedback()

    def stand_at(self, run: RunState | None) -> None:
        """The run as it stands now. A reading that was added is told by its sound, once it is committed."""
        before, self._run = self._run, run
        fresh = run is None or before is None or before.id != run.id
        if fresh or run is None or before is None:
            self._tell(Feedback())
        elif taken(run) > taken(before):
            self._tell(Feedback())
            self._sounds.play("series" if _completed(before, run) else "taken")

    def target(self) -> float:
        """The target of the next pull in N·m."""
        run = self._run
        return 1.0 if run is None else target_of(run)

    # What the meter brings

    def signalled(self, signal: Signalled) -> None:
        """A pull's first peak is certain: count a release, or take a reading."""
        self._take(signal.torque, Source.TRACE, signal.turned, signal.id)

    def pulled(self, pull: Pull) -> None:
        """The pull is over: take what was not announced, file its trace, and say how it was."""
        run = self._run
        if run is None or run.step not in (*READINGS, Step.EXERCISE, Step.ADJUST):
            return
        if pull.reading is None:
            if pull.highest > LEAST_PULL * self.target():
                self._nothing_taken(run)
            return
        if pull.announced:
            self._say_hand(run, pull)
        else:
            self._take(pull.reading, Source.TRACE, pull.turned, pull.id, lambda: self._say_hand(run, pull))
        if run.step is not Step.EXERCISE:
            self._do(lambda session, act: _file(session, run.id, pull, act))

    def valued(self, torque: float) -> None:
        """The meter caught a value itself; a negative one was pulled counter-clockwise."""
        self._take(abs(torque), Source.METER, None if torque >= 0 else Direction.CCW, None)

    def typed(self, torque: float, done: Callable[[], None], refused: Callable[[str], None]) -> None:
        """A person typed a reading in N·m."""
        run = self._run
        if run is not None:
            self._do(
                lambda session, act: taking.observe(session, run.id, taking.typed(torque), act, run),
                done=done,
                refused=refused,
                torque=torque,
            )

    def notice(self, words: str) -> None:
        """Tell a fault or a refusal."""
        self._tell(replace(self.feedback, notice=words))

    # Striking

    def strike(self, reason: str) -> None:
        """Strike the last reading of the phase that is open."""
        run = self._run
        last = newest(run) if run is not None else None
        if run is not None and last is not None:
            self._tell(Feedback())
            self._do(lambda session, act: taking.strike(session, run.id, (last[1].id,), reason, act))

    def strike_first_releases(self) -> None:
        """Strike the first releases of a series as what they were: exercise."""
        run = self._run
        found = next(((s, f) for s in run.series if (f := s.first_releases())), None) if run else None
        if run is not None and found is not None:
            series, first = found
            ids = tuple(p.observation_id for p in series.pairs[: first.count])
            self._do(lambda session, act: taking.strike(session, run.id, ids, FIRST_RELEASE, act))

    # Inside

    def _take(
        self,
        torque: float,
        source: Source,
        turned: Direction | None,
        pull: str | None,
        done: Callable[[], None] | None = None,
    ) -> None:
        run = self._run
        if run is None:
            return
        deed: Deed | None = None
        if run.step is Step.EXERCISE and run.exercise_apart:
            self.notice(
                f"Nothing was counted: exercise goes past what {run.reference.number if run.reference else 'it'} bears. "
                "Take the tool off it, and count each release with Enter."
            )
        elif run.step is Step.EXERCISE:
            deed = lambda session, act: taking.record_exercise(session, run.id, torque, act, turned)  # noqa: E731
        elif run.step is Step.ADJUST or (run.step in READINGS and run.current is not None):
            seen = Seen(ObservationKind.VALUE, torque, source, turned, pull)
            deed = lambda session, act: taking.observe(session, run.id, seen, act, run)  # noqa: E731
        if deed is not None:
            self._do(deed, done=done, refused=self.notice, torque=None if run.step is Step.EXERCISE else torque)

    def _nothing_taken(self, run: RunState) -> None:
        if run.meter_mode is MeterMode.HOLD:
            self.notice("No plateau was found. Nothing was taken; bring it to the mark and hold it for a second.")
        else:
            self.notice("Let go before it signalled. Nothing was taken; pull again.")
        self._sounds.play("refused")

    def _say_hand(self, run: RunState, pull: Pull) -> None:
        """Feedback on the pull, apart from the reading: over-travel, and faults with striking offered."""
        over, took = pull.over_travel, pull.time_80_to_100
        told = self.feedback
        if over is not None and over > WORTH_SAYING and run.tool.kind.is_setting:
            words = f"Your hand went {percent(over, 0)} past the signal; stop as soon as {run.tool.implies.until}."
            told = replace(told, hand=words)
        faults = tuple(f for f in pull.faults if f is not Fault.NO_SIGNAL)
        if faults and run.step is not Step.EXERCISE:
            seconds = f" ({fixed(took, 1)} s from 80 %)" if took is not None else ""
            words = f"A bad pull: {fault_words(faults)}{seconds}. Backspace and Enter strike it; it is yours to decide."
            told = replace(told, notice=words, faults=faults)
            self._sounds.play("refused")
        self._tell(told)

    def _tell(self, told: Feedback) -> None:
        if told != self.feedback:
            self.feedback = told
            self.told.emit()


def fault_words(faults: tuple[Fault, ...]) -> str:
    """Such as "too fast, jerk"."""
    return ", ".join(f.value for f in faults)


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


def _completed(before: RunState, run: RunState) -> bool:
    """Whether a series became complete."""
    missing = {s.id: s.missing for s in before.series}
    return run.step is not Step.ADJUST and any(not s.missing and missing.get(s.id, 0) for s in run.series)


def _file(session: Session, run_id: int, pull: Pull, act: Act) -> RunState | None:
    """Keep the pull's trace, and what the meter showed at rest before it as the zeros of the series around it."""
    run = taking.keep_trace(session, run_id, pull, act)
    if pull.rest_before is None or run is None or run.adjusting is not None:
        return run
    return setting_up.note_rest(session, run_id, pull.rest_before, act, over=False)
