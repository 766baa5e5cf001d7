"""Words about what makes a reading unsure: effects, how well each is known, characterisations, few readings."""

from __future__ import annotations

import math

from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.printing import (
    fixed,
    percent,
    quantity,
    uncertainty_decimals,
)
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import EFFECT_NAMES, FEW_DEGREES, Budget, Effect, EffectWidth
from reckoner.core.uncertainty.characterisation import RANGE_FACTORS
from reckoner.shop.facts.judged import MeasuredEffects
from reckoner.shop.runs.characterising import measured, measured_means
from reckoner.shop.runs.state import RunState

EFFECT_WORDS = {
    Effect.REPRODUCIBILITY: tr("Remounting"),
    Effect.OUTPUT_DRIVE: tr("Drive positions"),
    Effect.INTERFACE: tr("Adapter positions"),
    Effect.LOADING_POINT: tr("Hand ±10 mm"),
}
"""What a characterisation can measure, to choose from."""


_MEASURED = {
    Effect.REPRODUCIBILITY: tr("reproducibility"),
    Effect.OUTPUT_DRIVE: tr("drive positions"),
    Effect.INTERFACE: tr("adapter positions"),
    Effect.LOADING_POINT: tr("loading point"),
}


def place_words(effect: Effect, place: int) -> str:
    """One place at which an effect is measured, such as "drive at 90°"."""
    match effect:
        case Effect.REPRODUCIBILITY:
            return tr("remounted, {place} of 4", place=place + 1)
        case Effect.OUTPUT_DRIVE:
            return tr("drive at {place}°", place=place * 90)
        case Effect.INTERFACE:
            return tr("adapter at {place}°", place=place * 90)
        case Effect.LOADING_POINT:
            return (tr("hand 10 mm nearer"), tr("hand 10 mm further out"))[place]


def effects_words(found: MeasuredEffects) -> str:
    """Where a budget's b values come from; empty when nothing was characterised."""
    if found.on is None:
        return ""
    return tr(
        "characterisation of {which}, {on}",
        which=tr("its model") if found.of_model else tr("this tool"),
        on=day_words(found.on),
    )


def freedom_words(freedom: float) -> str:
    """Degrees of freedom; whole ones, and more than a hundred, without decimals."""
    return "∞" if math.isinf(freedom) else fixed(freedom, 0 if freedom >= 100 or freedom == round(freedom) else 1)


def few_sentence(budget: Budget) -> str:
    """What is to be said of W where a few readings stand behind it; empty where k = 2 says enough."""
    if not budget.says_too_little:
        return ""
    _, wider = budget.student
    of_range = any(c.name in EFFECT_NAMES and c.degrees_of_freedom < FEW_DEGREES for c in budget.components if c.value)
    also = tr(", and what few means tell,") if of_range else ""
    return tr(
        "With {count} readings{also} k = 2 says too little (ν {freedom_words}): by Student's t, W is "
        "{wider} instead of {expanded_uncertainty}.",
        count=len(budget.deviations),
        also=also,
        freedom_words=freedom_words(budget.degrees_of_freedom),
        wider=percent(wider, 2),
        expanded_uncertainty=percent(budget.expanded_uncertainty, 2),
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
                told = tr(
                    "range {ranged} of {count} means, d₂ {range_factors}; {told}",
                    ranged=ranged,
                    count=len(seen),
                    range_factors=RANGE_FACTORS[len(seen)],
                    told=told,
                )
            said.append(f"{words} {quantity(found.b, unit, uncertainty_decimals(unit.from_si(found.b)))} ({told})")
    words = ", ".join(said)
    return tr(
        "{upper}{words} at {target}",
        upper=words[:1].upper(),
        words=words[1:],
        target=quantity(run.all_series[0].target, unit),
    )
