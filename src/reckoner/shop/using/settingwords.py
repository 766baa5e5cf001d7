"""How an answer of the Setting place is told: its sentence, what stands beneath, the derivation, and the cautions."""

from __future__ import annotations

import math

from reckoner.core.printing import (
    THIN,
    decimals_for,
    fixed,
    number,
    percent,
    quantity,
    reading_decimals,
    uncertainty_decimals,
)
from reckoner.core.setting import force_at, scales
from reckoner.core.units import MILLIMETRE, N_M, NEWTON, Kind, Unit, unit_named
from reckoner.shop.toolfacts import ToolFacts
from reckoner.shop.using.fitting import SQUARE
from reckoner.shop.using.setting import Answer, Ask, Habit, HabitBasis, found_at, head_of, known_of

LBF_FT = unit_named("lbf.ft", Kind.TORQUE)
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


def _fitted_words(ask: Ask) -> str:
    if not ask.fitted:
        return ""
    first = ask.fitted[0]
    rest = f" and {len(ask.fitted) - 1} more" if len(ask.fitted) > 1 else ""
    return f" with the {first.words}{rest}"


def sentence(found: Answer) -> str:
    """Such as "Set 70.0 N·m on HC-0417 with the 45 mm crow-foot in line: the joint gets 79.8 N·m of 80.". Where nothing was
    measured at the setting no torque is promised: "80 N·m needs about 82.8 N·m on HC-0417; not measured there."."""
    ask, tool = found.ask, found.ask.tool
    if found.out_of_range and tool is not None:
        return f"{tool.number} would have to be set to {_t(found.exact.setting, tool.unit)}; it goes from {tool.range_text}."
    if found.forbidden and tool is not None:
        return f"{tool.number} is used with correction, and was not measured there: take another tool."
    words, wanted = set_words(tool, found.setting, ask.unit), quantity(ask.wanted, ask.unit)
    if tool is None:
        return f"Set {words}{_fitted_words(ask)} for {wanted}, on a tool that reads true."
    verb = f"{tool.number} is fixed at" if tool.kind.is_fixed else "Set" if tool.kind.is_setting else "Stop at"
    where = "" if tool.kind.is_fixed else f" on {tool.number}"
    if found.gets is not None:
        of = f"the joint gets {_t(found.gets, ask.unit)} of {number(ask.unit.from_si(ask.wanted))}"
        return f"{verb} {words}{where}{_fitted_words(ask)}: {of}."
    if tool.kind.is_fixed:
        return f"{verb} {words}{_fitted_words(ask)}, for {wanted} wanted; what it does there was not measured."
    if known_of(ask) is None:
        return f"Nobody knows what {tool.number} gives at {words}{_fitted_words(ask)}: not measured there."
    return f"{wanted} needs about {words}{where}{_fitted_words(ask)}; not measured there."


def beneath(found: Answer) -> str:
    """The quiet line under the sentence: rounding, W, both scales, the other unit."""
    ask, said = found.ask, []
    there, off = found_at(ask, found.setting), found.off
    if off is not None and abs(off) >= 5e-4 and ask.tool is not None:
        why = "as it is fixed" if ask.tool.kind.is_fixed else "after rounding to its graduation"
        said.append(f"{percent(off, 1, sign=True)} {why}")
    if found.gets is not None and there.deviation is not None and (known := known_of(ask)) is not None:
        said.append(f"by its {known.by}: {percent(there.deviation, 1, sign=True)} there")
        worth = there.expanded_uncertainty or 0.0
        spread = ask.unit.from_si(worth * found.gets)
        places = uncertainty_decimals(spread)
        expected = fixed(ask.unit.from_si(found.gets), places)
        said.append(f"{expected} ± {fixed(spread, places)}{THIN}{ask.unit.symbol} (W {percent(worth, 1)})")
    elif (known := known_of(ask)) is not None:
        at = ", ".join(number(ask.tool.unit.from_si(p.setting)) for p in known.points) if ask.tool is not None else ""
        said.append(f"its {known.by} tested {at}: nothing is extrapolated, and nothing can be promised")
    elif ask.tool is not None:
        said.append("as it reads" if ask.known is not None else "as it reads: nothing is known of its error")
    said += _read_words(ask, found.setting)
    return " · ".join(words for words in said if words)


def _read_words(ask: Ask, setting: float) -> list[str]:
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
        said.append(f"main scale {main}, fine scale {fixed(own.from_si(on.fine), fine)}")
    return said


def formulas(found: Answer) -> tuple[str, ...]:
    """The derivation with the user's own values, line by line."""
    ask, f, exact, said = found.ask, found.factor, found.exact, []
    length, hand = ask.length, ask.hand or ask.length
    if ask.corrects:
        said.append("f = 1: the tool corrects for the adapter itself, and is never corrected twice")
    elif (ask.fitted or ask.hand is not None or head_of(ask) is not None) and length is not None and hand is not None:
        parts = [f"{number(one.length * 1000)}·cos {fixed(math.degrees(one.angle_rad), 0)}°" for one in ask.fitted]
        if (head := head_of(ask)) is not None:
            parts.append(f"{number(head.reach * 1000)} (head)")
        reach = math.fsum([*(one.adapter.reach for one in ask.fitted), head.reach if head is not None else 0.0])
        pivot = ask.tool.pivot if ask.tool is not None else 0.0
        ell, h, p, e = (number(x * 1000) for x in (length, hand, pivot, reach))
        if parts:
            said.append(f"E = Σ e·cos φ = {' + '.join(parts)} = {e} mm")
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
            f"X ≈ T/f·(1 + a) = {x} {own.symbol}, with a from the tested setting nearest to it; nothing was measured there"
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
    said.append(f"the joint gets X/(1 + a)·f = {s}{divided}·{fixed(f, 5)}{unless} = {gets}")
    return tuple(said)


def cautions(ask: Ask) -> tuple[str, ...]:
    """What has to be kept in mind, what can hurt first."""
    said = []
    for one in ask.fitted:
        if one.of is not None and one.of.rating is not None and ask.wanted > one.of.rating * (1 + 1e-9):
            said.append(f"{one.of.number} may bear {quantity(one.of.rating, N_M)}: it must not be used for this.")
        if one.of is not None and one.of.gives:
            said.append(f"{one.of.number} has a joint with give: it does not pass the set torque on.")
    if ask.fitted and not ask.corrects:
        near = next((one for one in ask.fitted if abs(abs(one.angle_rad) - SQUARE) <= NEAR_SQUARE), None)
        if near is not None and (hand := ask.hand or ask.length):
            line = math.acos(-near.length / (2 * hand))
            less = near.length**2 / (2 * hand**2)
            said.append(
                f"Square means 90° to the handle. At {fixed(math.degrees(line), 1)}° the straight line from hand to bolt is "
                f"as long as the lever, yet the joint gets {percent(less, 1)} less."
            )
        elif any(abs(one.angle_rad) > SQUARE for one in ask.fitted):
            said.append("Past 90° the adapter shortens the lever: the tool is set higher than the joint gets.")
        said.append("A second hand under the adapter keeps it square on the fastener.")
    if ask.tool is not None and ask.tool.corrects_adapter and not ask.entered and ask.fitted:
        said.append(
            f"{ask.tool.number} can correct for the length itself: leave its entry at nothing, or say that it is entered."
        )
    said.append("Never lengthen the handle with a pipe. The joint's maker rules.")
    return tuple(said)


def torque_figure(torque: float, unit: Unit) -> str:
    """A torque at the joint without its unit."""
    return _t(torque, unit).rsplit(THIN, 1)[0]


def habit_words(ask: Ask, habit: Habit) -> str:
    """What stands under a habit: what is set, how far off the joint then is, and what that takes of its band."""
    said = [f"set {set_words(ask.tool, habit.set, ask.unit)}"]
    if not habit.measured and habit.basis is not HabitBasis.AS_IT_READS:
        said[0] += ", as it reads"
    if abs(habit.off) < 5e-4:
        return f"{said[0]}: {habit.basis}"
    said.append(percent(habit.off, 1, sign=True))
    if habit.taken is not None:
        said.append(f"{percent(habit.taken, 0)} of its room")
    return ", ".join(said)


def spanner_words(ask: Ask) -> str:
    """What a plain spanner with a hanging scale wants, where no tool is at hand; empty where its length is not known."""
    if ask.tool is not None or ask.length is None:
        return ""
    hand = ask.hand or ask.length
    reach = hand + math.fsum(one.adapter.reach for one in ask.fitted)
    force = force_at(ask.wanted, reach)
    return (
        f"Without a torque tool: a plain spanner pulled square at {quantity(reach, MILLIMETRE)} with "
        f"{quantity(force, NEWTON, 0)} ({quantity(force, KGF, 1)} on a hanging scale)."
    )
