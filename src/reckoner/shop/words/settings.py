"""How an answer of the Setting place is told: its sentence, what stands beneath, the derivation, and the cautions."""

from __future__ import annotations

import math

from reckoner.core.quantities.ownunits import LBF_FT
from reckoner.core.quantities.printing import (
    THIN,
    decimals_for,
    fixed,
    number,
    percent,
    quantity,
    reading_decimals,
    uncertainty_decimals,
)
from reckoner.core.quantities.units import N_M, Kind, Unit, unit_named
from reckoner.core.reference.weights import STANDARD_GRAVITY
from reckoner.core.tightening.setting import force_at, scales
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.using.fitting import SQUARE
from reckoner.shop.using.setting import Habit, HabitBasis, SettingAnswer, SettingQuestion, found_at, head_of, known_of

KGF = unit_named("kgf", Kind.FORCE)
NEAR_SQUARE = math.radians(12)
"""How near to 90° it is worth telling the two meanings of square apart."""


def _t(torque: float, unit: Unit) -> str:
    """A torque as it is told: the tool's graduation decides where there is one."""
    return quantity(torque, unit, max(1, min(3, 3 - math.floor(math.log10(max(1e-9, abs(unit.from_si(torque))))) - 1)))


def set_words(tool: ToolFacts | None, torque: float, unit: Unit) -> str:
    """A setting as it reads on the tool, in its own unit.

    It has as many decimals as the tool's graduation."""
    if tool is None:
        return _t(torque, unit)
    return quantity(torque, tool.unit, reading_decimals(tool.kind.resolution, tool.unit))


def test_words(found: SettingAnswer) -> str:
    """What a test at the setting is called that nothing was measured at."""
    return tr("Measure it there: three pulls at {at}", at=set_words(found.ask.tool, found.setting, found.ask.unit))


def _fitted_words(ask: SettingQuestion) -> str:
    if not ask.fitted:
        return ""
    first = ask.fitted[0]
    rest = tr(" and {count} more", count=len(ask.fitted) - 1) if len(ask.fitted) > 1 else ""
    return tr(" with the {words}{rest}", words=first.words, rest=rest)


def sentence(found: SettingAnswer) -> str:
    """Such as "Set 70.0 N·m on HC-0417 with the 45 mm crow-foot in line: the joint gets 79.8 N·m of 80.". Where nothing was
    measured at the setting no torque is promised: "80 N·m needs about 82.8 N·m on HC-0417; not measured there."."""
    ask, tool = found.ask, found.ask.tool
    if found.out_of_range and tool is not None:
        return tr(
            "{number} would have to be set to {t}; it goes from {range_text}.",
            number=tool.number,
            t=_t(found.exact.setting, tool.unit),
            range_text=tool.range_text,
        )
    if found.forbidden and tool is not None:
        return tr(
            "{number} is used with correction, and was not measured there: take another tool.", number=tool.number
        )
    words, wanted = set_words(tool, found.setting, ask.unit), quantity(ask.wanted, ask.unit)
    if tool is None:
        return tr(
            "Set {words}{fitted_words} for {wanted}, on a tool that reads true.",
            words=words,
            fitted_words=_fitted_words(ask),
            wanted=wanted,
        )
    verb = (
        tr("{number} is fixed at", number=tool.number)
        if tool.kind.is_fixed
        else tr("Set")
        if tool.kind.is_setting
        else tr("Stop at")
    )
    where = "" if tool.kind.is_fixed else tr(" on {number}", number=tool.number)
    if found.gets is not None:
        of = tr(
            "the joint gets {t} of {from_si}", t=_t(found.gets, ask.unit), from_si=number(ask.unit.from_si(ask.wanted))
        )
        return f"{verb} {words}{where}{_fitted_words(ask)}: {of}."
    if tool.kind.is_fixed:
        return tr(
            "{verb} {words}{fitted_words}, for {wanted} wanted; what it does there was not measured.",
            verb=verb,
            words=words,
            fitted_words=_fitted_words(ask),
            wanted=wanted,
        )
    if known_of(ask) is None:
        return tr(
            "Nobody knows what {number} gives at {words}{fitted_words}: not measured there.",
            number=tool.number,
            words=words,
            fitted_words=_fitted_words(ask),
        )
    return tr(
        "{wanted} needs about {words}{where}{fitted_words}; not measured there.",
        wanted=wanted,
        words=words,
        where=where,
        fitted_words=_fitted_words(ask),
    )


def beneath(found: SettingAnswer) -> str:
    """The quiet line under the sentence: rounding, W, both scales, the other unit."""
    ask, said = found.ask, []
    there, off = found_at(ask, found.setting), found.off
    if off is not None and abs(off) >= 5e-4 and ask.tool is not None:
        why = tr("as it is fixed") if ask.tool.kind.is_fixed else tr("after rounding to its graduation")
        said.append(f"{percent(off, 1, sign=True)} {why}")
    if found.gets is not None and there.deviation is not None and (known := known_of(ask)) is not None:
        said.append(tr("by its {by}: {deviation} there", by=known.by, deviation=percent(there.deviation, 1, sign=True)))
        worth = there.expanded_uncertainty or 0.0
        spread = ask.unit.from_si(worth * found.gets)
        places = uncertainty_decimals(spread)
        expected = fixed(ask.unit.from_si(found.gets), places)
        said.append(f"{expected} ± {fixed(spread, places)}{THIN}{ask.unit.symbol} (W {percent(worth, 1)})")
    elif (known := known_of(ask)) is not None:
        at = ", ".join(number(ask.tool.unit.from_si(p.setting)) for p in known.points) if ask.tool is not None else ""
        said.append(
            tr("its {by} tested {at}: nothing is extrapolated, and nothing can be promised", by=known.by, at=at)
        )
    elif ask.tool is not None:
        said.append(tr("as it reads") if ask.known is not None else tr("as it reads: nothing is known of its error"))
    said += _read_words(ask, found.setting)
    return " · ".join(words for words in said if words)


def _read_words(ask: SettingQuestion, setting: float) -> list[str]:
    """The setting in the other unit, and on both its scales."""
    tool = ask.tool
    own = tool.unit if tool is not None else ask.unit
    other = N_M if own != N_M else LBF_FT
    if tool is not None and tool.second is not None:
        other = tool.second.unit
    said = [f"= {_t(setting, other)}"]
    if tool is not None and tool.main_graduation:
        on = scales(setting, tool.main_graduation)
        fine = decimals_for(own.from_si(tool.kind.resolution)) if tool.kind.resolution else 1
        main = number(own.from_si(on.main))
        said.append(tr("main scale {main}, fine scale {from_si}", main=main, from_si=fixed(own.from_si(on.fine), fine)))
    return said


def formulas(found: SettingAnswer) -> tuple[str, ...]:
    """The derivation with the user's own values, line by line."""
    ask, f, exact, said = found.ask, found.factor, found.exact, []
    length, hand = ask.length, ask.hand or ask.length
    if ask.corrects:
        said.append(tr("f = 1: the tool corrects for the adapter itself, and is never corrected twice"))
    elif (ask.fitted or ask.hand is not None or head_of(ask) is not None) and length is not None and hand is not None:
        parts = [f"{number(one.length * 1000)}·cos {fixed(math.degrees(one.angle_rad), 0)}°" for one in ask.fitted]
        if (head := head_of(ask)) is not None:
            parts.append(tr("{reach} (head)", reach=number(head.reach * 1000)))
        reach = math.fsum([*(one.adapter.reach for one in ask.fitted), head.reach if head is not None else 0.0])
        pivot = ask.tool.pivot if ask.tool is not None else 0.0
        ell, h, p, e = (number(x * 1000) for x in (length, hand, pivot, reach))
        if parts:
            said.append(tr("E = Σ e·cos φ = {list} = {e} mm", list=" + ".join(parts), e=e))
        if pivot:
            said.append(
                f"f = (L − p)/L · (h + E)/(h − p) = ({ell} − {p})/{ell} · ({h} + {e})/({h} − {p}) = {fixed(f, 5)}"
            )
        else:
            said.append(f"f = (h + E)/h = ({h} + {e})/{h} = {fixed(f, 5)}")
    own = ask.tool.unit if ask.tool is not None else ask.unit
    t, x, s = number(own.from_si(ask.wanted)), number(own.from_si(exact.setting)), number(own.from_si(found.setting))
    if own is not ask.unit:
        said.append(f"T = {quantity(ask.wanted, ask.unit)} = {t} {own.symbol}")
    known = known_of(ask)
    if exact.deviation is not None:
        a = percent(exact.deviation, 2, sign=True)
        said.append(f"X = T/f·(1 + a) = {t}/{fixed(f, 5)}·(1 {a[0]} {a[1:]}) = {x} {own.symbol}")
    elif known is not None and ask.tool is not None and not ask.tool.kind.is_fixed:
        said.append(
            tr(
                "X ≈ T/f·(1 + a) = {x} {symbol}, with a from the tested setting nearest to it; nothing was "
                "measured there",
                x=x,
                symbol=own.symbol,
            )
        )
    else:
        said.append(f"X = T/f = {t}/{fixed(f, 5)} = {x} {own.symbol}")
    if found.gets is None:
        return tuple(said)
    there = found_at(ask, found.setting)
    a = percent(there.deviation or 0.0, 2, sign=True)
    divided = f"/(1 {a[0]} {a[1:]})" if there.deviation else ""
    gets = quantity(found.gets, ask.unit)
    unless = f" {own.symbol}" if own is not ask.unit else ""
    said.append(
        tr(
            "the joint gets X/(1 + a)·f = {s}{divided}·{f}{unless} = {gets}",
            s=s,
            divided=divided,
            f=fixed(f, 5),
            unless=unless,
            gets=gets,
        )
    )
    return tuple(said)


def cautions(ask: SettingQuestion) -> tuple[str, ...]:
    """What has to be kept in mind, what can hurt first."""
    said = []
    for one in ask.fitted:
        if one.of is not None and one.of.rating is not None and ask.wanted > one.of.rating * (1 + 1e-9):
            said.append(
                tr(
                    "{number} may bear {rating}: it must not be used for this.",
                    number=one.of.number,
                    rating=quantity(one.of.rating, N_M),
                )
            )
        if one.of is not None and one.of.gives:
            said.append(tr("{number} has a joint with give: it does not pass the set torque on.", number=one.of.number))
    if ask.fitted and not ask.corrects:
        near = next((one for one in ask.fitted if abs(abs(one.angle_rad) - SQUARE) <= NEAR_SQUARE), None)
        if near is not None and (hand := ask.hand or ask.length):
            line = math.acos(-near.length / (2 * hand))
            less = near.length**2 / (2 * hand**2)
            said.append(
                tr(
                    "Square means 90° to the handle. At {degrees}° the straight line from hand to bolt is as long "
                    "as the lever, yet the joint gets {less} less.",
                    degrees=fixed(math.degrees(line), 1),
                    less=percent(less, 1),
                )
            )
        elif any(abs(one.angle_rad) > SQUARE for one in ask.fitted):
            said.append(tr("Past 90° the adapter shortens the lever: the tool is set higher than the joint gets."))
        said.append(tr("A second hand under the adapter keeps it square on the fastener."))
    if ask.tool is not None and ask.tool.corrects_adapter and not ask.entered and ask.fitted:
        said.append(
            tr(
                "{number} can correct for the length itself: leave its entry at nothing, or say that it is entered.",
                number=ask.tool.number,
            )
        )
    said.append(tr("Never lengthen the handle with a pipe. The joint's maker rules."))
    return tuple(said)


def torque_figure(torque: float, unit: Unit) -> str:
    """A torque at the joint without its unit."""
    return _t(torque, unit).rsplit(THIN, 1)[0]


def habit_words(ask: SettingQuestion, habit: Habit) -> str:
    """What stands under a habit: what is set, how far off the joint then is, and what that takes of its band."""
    said = [tr("set {set_words}", set_words=set_words(ask.tool, habit.set, ask.unit))]
    if not habit.measured and habit.basis is not HabitBasis.AS_IT_READS:
        said[0] += tr(", as it reads")
    if abs(habit.off) < 5e-4:
        return f"{said[0]}: {tr(habit.basis)}"
    said.append(percent(habit.off, 1, sign=True))
    if habit.taken is not None:
        said.append(tr("{taken} of its room", taken=percent(habit.taken, 0)))
    return ", ".join(said)


def spanner_words(ask: SettingQuestion) -> str:
    """What a plain spanner with a hanging scale wants, where no tool is at hand; empty where its length is not known."""
    if ask.tool is not None or ask.length is None:
        return ""
    hand = ask.hand or ask.length
    reach = hand + math.fsum(one.adapter.reach for one in ask.fitted)
    force = force_at(ask.wanted, reach)
    return tr(
        "Without a torque tool: a plain spanner pulled square at {reach} with {force} ({force_2} on a hanging scale).",
        reach=ask.own_units.length_words(ask.own_units.on_rule(reach)),
        force=ask.own_units.force_words(force, 0),
        force_2=quantity(force / STANDARD_GRAVITY, ask.own_units.mass, 1),
    )
