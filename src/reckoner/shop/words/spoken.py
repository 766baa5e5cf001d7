"""What is spoken at the bench: each result in a few words, then what to do; units and signs as they are said.

To add a unit that is spoken: a row in ``SAID``.
"""

from __future__ import annotations

import re

from reckoner.core.quantities.printing import fixed
from reckoner.core.translation import tr
from reckoner.shop.runs.asking import asked_words
from reckoner.shop.runs.records import Step
from reckoner.shop.runs.state import RunState

SAID = {
    "cN·m": tr("centinewton metres"),
    "kN·m": tr("kilonewton metres"),
    "dN·m": tr("decinewton metres"),
    "daN·m": tr("decanewton metres"),
    "mN·m": tr("millinewton metres"),
    "N·m": tr("newton metres"),
    "N·cm": tr("newton centimetres"),
    "N·mm": tr("newton millimetres"),
    "lbf·ft": tr("pound feet"),
    "lbf·in": tr("pound inches"),
    "ozf·in": tr("ounce inches"),
    "kgf·m": tr("kilogram metres"),
    "gf·cm": tr("gram centimetres"),
    "kgf·cm": tr("kilogram centimetres"),
    "mm": tr("millimetres"),
    "cm": tr("centimetres"),
    "m": tr("metres"),
    "in": tr("inches"),
    "ft": tr("feet"),
    "kg": tr("kilograms"),
    "g": tr("grams"),
    "lbf": tr("pounds of force"),
    "lb": tr("pounds"),
    "oz": tr("ounces"),
    "N": tr("newtons"),
    "°C": tr("degrees"),
    "°F": tr("degrees"),
    "%": tr("per cent"),
    "°": tr("degrees"),
}
_UNIT = re.compile(
    r"(?<=\d)[\s\u202f\u00a0]?("
    + "|".join(re.escape(symbol) for symbol in sorted(SAID, key=len, reverse=True))
    + r")(?![\w·])"
)

ON_THE_MARK = 0.0005
"""Nearer than this, a fraction, a reading is on the mark: it would be spoken as no per cent at all."""


def aloud(text: str) -> str:
    """A text as it is spoken.

    >>> aloud("Set 80.0 N·m; it may be −2.1 % off.")
    'Set 80.0 newton metres; it may be minus 2.1 per cent off.'
    """
    said = _UNIT.sub(lambda found: f" {SAID[found[1]]}", text.replace("\u202f", " "))
    return said.replace("−", tr("minus ")).replace("±", tr("plus or minus ")).replace("“", "").replace("”", "")


def result_aloud(deviation: float) -> str:
    """A deviation in a few words.

    >>> [result_aloud(d) for d in (-0.131, 0.021, 0.0)]
    ['13 per cent low.', '2.1 per cent high.', 'On the mark.']
    """
    size = abs(deviation)
    if size < ON_THE_MARK:
        return tr("On the mark.")
    words = fixed(100 * size, 0 if size >= 0.0995 else 1)
    way = tr("low") if deviation < 0 else tr("high")
    return tr("{size} per cent {way}.", size=words, way=way)


def heard(before: RunState | None, run: RunState, instruction: str) -> str:
    """What is said when a run stands as it does now, after it stood as ``before``: what was taken, and what comes next.
    ``instruction`` is what the bench shows to do. Empty where nothing is new."""
    if before is None or before.id != run.id:
        return aloud(instruction)
    if run.asked and run.asked != before.asked:
        return f"{_taken(before, run)} {aloud(asked_words(run, run.asked[0]))}".strip()
    if _stands(run) == _stands(before):
        return ""
    return f"{_taken(before, run)} {_next(before, run, instruction)}".strip()


def _stands(run: RunState) -> tuple[object, ...]:
    """Where a run stands, as a person with full hands would want to hear."""
    series = run.current
    counted = sum(len(s.counted) for s in run.all_series)
    return run.step, series.id if series is not None else None, counted, sum(e.done for e in run.exercise)


def _taken(before: RunState, run: RunState) -> str:
    """The result that is new."""
    had = {p.observation_id for s in before.all_series for p in s.pairs}
    new = [p for s in run.all_series for p in s.pairs if p.observation_id not in had]
    return result_aloud(new[-1].deviation) if new and run.policy.judges else tr("Taken.") if new else ""


def _next(before: RunState, run: RunState, instruction: str) -> str:
    if run.step is Step.DECIDE:
        return tr("All is taken. Decide and sign.")
    if run.step is Step.EXERCISE and before.step is Step.EXERCISE and run.exercising is not None:
        return tr("{left} to go.", left=run.exercising.wanted - run.exercising.done)
    now, was = run.current, before.current
    same = now is not None and was is not None and now.id == was.id and run.step is before.step
    if same and run.procedure.one_pull_tells and not run.paired:
        return tr("Turn again.") if run.tool.kind.is_screwdriver else tr("Pull again.")
    return aloud(instruction)
