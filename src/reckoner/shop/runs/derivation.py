"""A point's whole derivation with the user's own values put into the formulas (ISO 6789-1 and -2:2017)."""

from __future__ import annotations

import math

from reckoner.core.decision.verdict import PointResult, Verdict
from reckoner.core.quantities import printing
from reckoner.core.quantities.printing import fixed, number, percent, quantity, reading_decimals
from reckoner.core.requirements.limits import LimitOf
from reckoner.core.requirements.rules import Coverage, Rule
from reckoner.core.translation import tr
from reckoner.core.uncertainty.budget import EFFECT_NAMES, Component
from reckoner.shop.facts.judged import ReferenceFacts, head_factor, head_words
from reckoner.shop.facts.limits import limit_words
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedures.papers import PAPERS, DerivationLine
from reckoner.shop.words.effects import freedom_words
from reckoner.shop.words.results import component_words, rule_words


def derivation(
    tool: ToolFacts, reference: ReferenceFacts, point: PointResult, found: Verdict
) -> tuple[DerivationLine, ...]:
    """Every step from the readings of ``point`` to its decision."""
    budget, unit = point.budget, tool.unit
    readings = budget.observations.reference
    shown_by = [number(unit.from_si(x)) for x in budget.observations.tool or (point.target,)]
    decimals = reading_decimals(reference.resolution, unit)
    shown = ", ".join(fixed(unit.from_si(r), decimals) for r in readings)
    first, last, n, symbol = readings[0], readings[-1], len(readings), unit.symbol
    lines = [*PAPERS[reference.kind].derivation(tool, reference, point)]
    both_vary = len(set(shown_by)) > 1 and len(set(readings)) > 1
    displayed = DerivationLine(
        tr("What the tool showed"), "X_a", ", ".join(shown_by), tr("pull by pull, {symbol}", symbol=symbol)
    )
    lines += _readings(tool, reference, point, shown)
    lines += [displayed] if both_vary else []
    lines += [
        DerivationLine(
            tr("Deviation of each"),
            "a = (X_a − X_r) / X_r",
            f"({shown_by[0]} − {fixed(unit.from_si(first), decimals)}) / {fixed(unit.from_si(first), decimals)} … "
            f"({shown_by[-1]} − {fixed(unit.from_si(last), decimals)}) / {fixed(unit.from_si(last), decimals)}",
            ", ".join(percent(a, 2, sign=True) for a in budget.deviations),
        ),
        DerivationLine(tr("Mean deviation"), "ā = Σ a / n", f"n = {n}", percent(budget.deviation, 3, sign=True)),
        DerivationLine(
            tr("Standard deviation"),
            tr("s of X_a · X̄_r / X_r, n − 1") if both_vary else "s, n − 1",
            f"X̄_r = {number(unit.from_si(budget.mean_reading))} {symbol}",
            f"{number(unit.from_si(budget.standard_deviation))} {symbol}",
        ),
    ]
    lines += [_component(c, tool, reference, point) for c in budget.components]
    terms = " + ".join(f"{fixed(c.value * 100, 3)}²" for c in budget.components if c.value)
    lines += [
        DerivationLine(
            tr("Standard uncertainty"), "w = √Σ w_i²", f"√({terms}) %", percent(budget.standard_uncertainty, 3)
        ),
        _expanded(found, point),
        *_student(point),
        DerivationLine(
            tr("Uncertainty interval"),
            "W′ = |ā| + W + |b_ep|",
            f"{fixed(abs(budget.deviation) * 100, 3)} + {fixed(budget.expanded_uncertainty * 100, 3)} + "
            f"{fixed(abs(budget.reference_error) * 100, 3)} %",
            percent(budget.uncertainty_interval, 3),
        ),
        DerivationLine(
            tr("Probability of conformity"),
            tr("Φ((limit − ā)/w) − Φ((−limit − ā)/w)")
            if found.decision.coverage is Coverage.K2
            else tr("Student's distribution at (limit − ā)/w, less that at (−limit − ā)/w"),
            tr("limit = {limit}", limit=printing.limit(point.decision.limit)),
            fixed(point.decision.probability, 3),
        ),
        *_limit(tool, point),
        _decision(found, point),
    ]
    return tuple(lines)


def _readings(tool: ToolFacts, reference: ReferenceFacts, point: PointResult, shown: str) -> list[DerivationLine]:
    budget, unit = point.budget, tool.unit
    readings = budget.observations.reference
    decimals, n, symbol = reading_decimals(reference.resolution, unit), len(readings), unit.symbol
    head = head_factor(tool)
    correction = reference.correction(point.target) * head
    how_many = tr("{n} readings, {symbol}", n=n, symbol=symbol)
    if correction == 1:
        lines = [DerivationLine(tr("Readings"), "X_r", shown, how_many)]
        if reference.error_left:
            left = f"{percent(budget.reference_error, 2, sign=True)}, {reference.error_left}"
            lines.append(
                DerivationLine(tr("The reference's known error, left in"), "b_ep", left, tr("counted beside W"))
            )
        return lines
    indications = ", ".join(fixed(unit.from_si(r * correction), decimals) for r in readings)
    known = f"e = {percent(correction / head - 1, 2, sign=True)}"
    if head == 1:
        what, formula = tr("Readings, less the reference's known error"), tr("X_r = indication / (1 + e)")
    else:
        what, formula = tr("Readings, as the tool's scale has them"), tr("X_r = indication / (1 + e) / f")
        known += tr("; head {head_words}", head_words=head_words(tool))
    return [
        DerivationLine(tr("Indications"), tr("as read"), indications, how_many),
        DerivationLine(what, formula, known, f"{shown} {symbol}"),
    ]


def _component(c: Component, tool: ToolFacts, reference: ReferenceFacts, point: PointResult) -> DerivationLine:
    mean = number(tool.unit.from_si(point.budget.mean_reading))
    scale = tool.unit.from_si
    at = reference.at(point.target)
    n = len(point.budget.deviations)
    m = 1 if tool.kind.is_setting else 2
    formula, values = {
        "reference": ("W_ref / k", f"{percent(at.expanded_uncertainty, 2)} / {number(at.coverage_factor)}")
        if reference.proven
        else ("W_ref / k", "not known: it has no certificate; W is too small by it"),
        "reference_resolution": ("(r_ref / 2) / √3 / X̄_r", f"({number(scale(at.resolution))} / 2) / √3 / {mean}"),
        "resolution": (
            "√m · (r / 2) / √3 / X̄_r",
            f"√{m} · ({number(scale(tool.kind.resolution))} / 2) / √3 / {mean}",
        ),
        "repeatability": (
            "s / √n / X̄_r",
            f"{number(scale(point.budget.standard_deviation))} / √{n} / {mean}",
        ),
    }.get(c.name, ("b / (2√3) / X̄_r", f"b = {number(scale(c.value * 2 * math.sqrt(3) * point.budget.mean_reading))}"))
    if c.assumed:
        values = tr("not characterised, taken as 0")
    elif c.name in EFFECT_NAMES and c.value:
        values += tr("; known with ν = {freedom_words}", freedom_words=freedom_words(c.degrees_of_freedom))
    return DerivationLine(component_words(c.name), formula, values, percent(c.value, 3))


def _limit(tool: ToolFacts, point: PointResult) -> tuple[DerivationLine, ...]:
    """Where the limit at the point comes from, when maker or owner state one of their own."""
    if not tool.kind.limits:
        return ()
    stated = "; ".join(
        tr(
            "{limit_words}: {at} here",
            limit_words=limit_words(limit),
            at=percent(limit.at(point.target, tool.kind.maximum), 2),
        )
        for limit in tool.kind.limits
    )
    return (
        DerivationLine(
            tr("Limit at this point"),
            tr("the tightest of the rule set, the maker and the owner"),
            tr(
                "{stated}; of full scale: limit · {maximum} / X_a",
                stated=stated,
                maximum=quantity(tool.kind.maximum, tool.unit),
            )
            if any(zone.of is LimitOf.FULL_SCALE for limit in tool.kind.limits for zone in limit.zones)
            else stated,
            printing.limit(point.decision.limit),
        ),
    )


def _expanded(found: Verdict, point: PointResult) -> DerivationLine:
    k = number(point.budget.coverage_factor)
    how = "k = 2" if found.decision.coverage is Coverage.K2 else tr("k from Student's t, 95.45 %")
    values = f"{k} · {fixed(point.budget.standard_uncertainty * 100, 3)} %"
    return DerivationLine(
        tr("Expanded uncertainty, {how}", how=how), "W = k · w", values, percent(point.budget.expanded_uncertainty, 3)
    )


def _student(point: PointResult) -> tuple[DerivationLine, ...]:
    """Student's W beside that of k = 2, where the readings are few."""
    budget = point.budget
    if not budget.says_too_little:
        return ()
    k, w = budget.student
    freedom = fixed(budget.degrees_of_freedom, 1)
    return (
        DerivationLine(
            tr("By Student's t, for so few degrees of freedom"),
            "ν = w⁴ / Σ(w_i⁴ / ν_i); W = t · w",
            f"ν = {freedom}; {number(k)} · {fixed(budget.standard_uncertainty * 100, 3)} %",
            percent(w, 3),
        ),
    )


def _decision(found: Verdict, point: PointResult) -> DerivationLine:
    rule = found.decision.rule
    formula = {
        Rule.EVERY_READING: tr("max |a| ≤ limit"),
        Rule.MEAN: tr("|ā| ≤ limit"),
        Rule.GUARDED: tr("|ā| + |b_ep| + g·W ≤ limit"),
        Rule.PROBABILITY: tr("P ≥ level"),
    }[rule]
    values = tr(
        "{looked_at} against {limit}",
        looked_at=percent(point.decision.looked_at, 2),
        limit=printing.limit(point.decision.limit),
    )
    return DerivationLine(
        tr("Decision: {rule_words}", rule_words=rule_words(rule)), formula, values, point.decision.state.words
    )
