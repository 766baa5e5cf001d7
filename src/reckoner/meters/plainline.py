"""What a line of a meter says that knows no protocol: its torque, its unit, and the step it is written in.

A line is read when it can be read one way only. A number with a unit of torque beside it is the torque, whatever indexes,
dates, times and words stand around it; a number without one is when nothing else but a known word does. Whatever can be two
numbers is none.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import LIMITS, Kind, Unit, unit_named
from reckoner.core.translation import tr

STATUS = frozenset(
    (
        "ok", "ng", "nok", "pass", "fail", "go", "nogo", "no-go", "hi", "lo", "high", "low", "peak", "pk", "max", "min",
        "hold",         "track", "trk", "fp", "p", "h", "t", "r", "l", "cw", "ccw", "right", "left", "done", "end", "stable",
    )
)  # fmt: skip
"""Words beside a number that change nothing of it."""

_DATES = re.compile(
    r"(?<![\d.,])(?:\d{4}[-/.]\d{1,2}[-/.]\d{1,2}|\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4})(?:[T ]+(?=\d{1,2}:))?(?![\d])"
    r"|(?<![\d.,])\d{1,2}:\d{2}(?::\d{2}(?:[.,]\d+)?)?(?:\s?[ap]m\b)?(?![\d:])|#\s*\d+|\bno\.?\s*\d+\b",
    re.IGNORECASE,
)
_NUMBER = re.compile(r"(?<![\w.])(?<!\d,)[-+−]?\s?(?:\d[\d.,]*|[.,]\d+)(?![\d])")
_WORD = r"[^\W\d_]+\.?"
_UNIT_AFTER = re.compile(rf"[\s;|,\t]*({_WORD}(?:[ .·•⋅\-*]?{_WORD}){{0,2}})")
_UNIT_BEFORE = re.compile(rf"({_WORD}(?:[ .·•⋅\-*]?{_WORD}){{0,2}})[\s;|,:=\t]*$")
_GROUPED = re.compile(r"\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d{1,3}(?:\.\d{3}){2,}(?:,\d+)?|\d{1,3}(?:\.\d{3})+,\d+")


@dataclass(frozen=True)
class LineMeaning:
    """A value in ``unit``, None where the line names none, and the ``step`` it is written in, both in that unit."""

    value: float
    unit: Unit | None
    step: float


@dataclass(frozen=True)
class NotUnderstood:
    """Why a line that holds a number says none; it completes a sentence about it. Empty where it holds no number at all."""

    why: str


def read_line(text: str, kind: Kind = Kind.TORQUE) -> LineMeaning | NotUnderstood:
    """What a line says of a torque, or a force or a mass where that is the ``kind`` asked for. Never raises, and never says a
    number that could be another.

    >>> read_line("#3 12.5 Nm").value, read_line(".523 N.m").value, read_line("2026-11-24 10:02 45.6 Nm").value
    (12.5, 0.523, 45.6)
    >>> read_line("GS 12.34 kg", Kind.MASS).value
    12.34
    >>> read_line("1 234.5 Nm").why
    'its "1 234.5" can be one number or two'
    """
    left = _DATES.sub(lambda found: " " * len(found.group()), text)
    numbers = list(_NUMBER.finditer(left))
    if not numbers:
        return NotUnderstood(tr("its number is part of a word") if any(c.isdigit() for c in left) else "")
    torques = []
    past = 0
    for match in numbers:
        found = _unit_beside(left, match, past, kind)
        if found is not None:
            torques.append((match, found[0]))
            past = found[1]
    if len(torques) > 1:
        return NotUnderstood(tr("it holds more than one {value}", value=kind.value))
    if torques:
        match, unit = torques[0]
        before = [other for other in numbers if other.end() <= match.start()]
        if (
            before
            and not left[before[-1].end() : match.start()].strip()
            and _may_group(before[-1].group(), match.group())
        ):
            return NotUnderstood(
                tr('its "{strip}" can be one number or two', strip=left[before[-1].start() : match.end()].strip())
            )
        return _said(match.group(), unit, kind, several=left.count(",") > match.group().rstrip(".,").count(","))
    if len(numbers) > 1:
        return NotUnderstood(tr("it holds more than one number, and no unit of {value} beside one", value=kind.value))
    rest = (left[: numbers[0].start()] + " " + left[numbers[0].end() :]).replace(";", " ").replace("|", " ").split()
    if unknown := next((word for word in rest if word.strip(".:,").casefold() not in STATUS), None):
        return NotUnderstood(tr('its "{unknown}" is no unit of {value}', unknown=unknown, value=kind.value))
    return _said(numbers[0].group(), None, kind, several=False)


def _unit_beside(text: str, number: re.Match[str], past: int, kind: Kind) -> tuple[Unit, int] | None:
    """The unit of torque that stands right after a number, or else right before it and after ``past``, up to where another
    number has its own; and where it ends."""
    after = _UNIT_AFTER.match(text, number.end())
    if after is not None and text[after.end() :].lstrip()[:1] == "/":  # N·m a degree, or a second
        return None
    if after is not None and (unit := _longest(after.group(1), kind)) is not None:
        return unit, after.end()
    before = _UNIT_BEFORE.search(text[: number.start()], past)
    unit = None if before is None else _longest(before.group(1), kind, last=True)
    return None if unit is None else (unit, number.end())


def _longest(words: str, kind: Kind, *, last: bool = False) -> Unit | None:
    """The unit that the most of ``words`` name, from their beginning, or from their end for the ``last`` ones."""
    parts = re.findall(rf"[ .·•⋅\-*]?{_WORD}", words)
    for count in range(len(parts), 0, -1):
        spelling = "".join(parts[-count:] if last else parts[:count]).strip(" .")
        try:
            return unit_named(spelling, kind)
        except InputRefused:
            continue
    return None


def _may_group(before: str, number: str) -> bool:
    """Whether a number that stands before another may be its thousands."""
    return re.fullmatch(r"[-+−]?\s?\d{1,3}", before) is not None and re.match(r"\d{3}(?!\d)", number) is not None


def _said(digits: str, unit: Unit | None, kind: Kind, *, several: bool) -> LineMeaning | NotUnderstood:
    """The number in ``digits``; ``several``: the line has other commas, which may divide its columns."""
    found = number_in(digits, divided=several)
    if found is None:
        return NotUnderstood(tr('its "{strip}" can be read two ways', strip=digits.strip()))
    value, step = found
    if abs(value) * (unit.size if unit else 1.0) > LIMITS[kind]:
        return NotUnderstood(tr('its "{strip}" is out of reason for a {value}', strip=digits.strip(), value=kind.value))
    return LineMeaning(value, unit, step)


def number_in(digits: str, *, divided: bool = False) -> tuple[float, float] | None:
    """The value of ``digits`` and the step of their last one; None where their marks can be read two ways.

    With two kinds of marks the last is the decimal one ("1,234.5"), unless commas may be ``divided`` columns. One mark is the
    decimal one, except a comma before just three digits ("1,234"), which may be either.

    >>> number_in("1,234.5"), number_in("0,523"), number_in("1,234")
    ((1234.5, 0.1), (0.523, 0.001), None)
    """
    text = digits.replace("−", "-").replace(" ", "").rstrip(",.")
    sign = -1.0 if text.startswith("-") else 1.0
    text = text.lstrip("+-")
    marks = [mark for mark in text if mark in ".,"]
    if len(marks) > 1:
        if divided or not _GROUPED.fullmatch(text):
            return None
        decimal = marks[-1] if len(set(marks)) == 2 else ""
        text = text.replace("," if decimal != "," else ".", "").replace(decimal or ".", ".")
        if not decimal:
            text = text.replace(",", "").replace(".", "")
    elif marks == [","]:
        whole, _, part = text.partition(",")
        if divided or (len(part) == 3 and re.fullmatch(r"[1-9]\d{0,2}", whole)):
            return None
        text = f"{whole or '0'}.{part}"
    try:
        value = float(text)
    except ValueError:
        return None
    decimals = len(text.partition(".")[2])
    return sign * value, float(f"1e-{decimals}")
