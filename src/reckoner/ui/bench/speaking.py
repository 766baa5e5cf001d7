"""The bench speaks, for a person whose hands are full: each result, what to do next, and what was not taken."""

from __future__ import annotations

from PyQt6.QtCore import QObject

from reckoner.shop.procedures.weights import next_asked, what_hangs
from reckoner.shop.runs.records import READING_STEPS, Step
from reckoner.shop.runs.state import RunState
from reckoner.shop.words.spoken import aloud, heard
from reckoner.ui.bench.instructions import instruct
from reckoner.ui.bench.presenter import BenchPresenter, Scene
from reckoner.ui.bench.series.answering import words_of_try
from reckoner.ui.speech import Speech


class SpeakingBench(QObject):
    """Speaks what the presenter shows: once for each state of a run."""

    def __init__(self, presenter: BenchPresenter, speech: Speech) -> None:
        super().__init__(presenter)
        self._presenter, self._speech = presenter, speech
        self._run: RunState | None = None
        self._notice = ""
        presenter.stood.connect(self._stood)
        presenter.taker.told.connect(self._told)

    def _stood(self, scene: Scene) -> None:
        before, self._run = self._run, scene.run
        if self._run is None or not self._speech.on or self._run.step not in (*READING_STEPS, *BESIDE):
            return
        self._speech.speak(heard(before, self._run, instruction(self._run)))

    def _told(self) -> None:
        """Why nothing was taken, or that a pull was bad."""
        notice, self._notice = self._notice, self._presenter.taker.feedback.notice
        if self._notice and self._notice != notice:
            self._speech.speak(aloud(self._notice))


BESIDE = (Step.EXERCISE, Step.ADJUST, Step.DECIDE)
"""The steps in which hands are full, beside those of readings."""


def instruction(run: RunState) -> str:
    """What the bench shows to do now."""
    series = run.current
    if series is None or run.procedure.one_pull_tells or run.step is Step.EXERCISE:
        return instruct(run)
    lever, hung = what_hangs(run, series.target)
    asked = next_asked(run, series) if run.tool.kind.is_setting else None
    return words_of_try(run, series, lever, asked.there if asked is not None else hung, asked)[0]
