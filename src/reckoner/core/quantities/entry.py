"""What a person types for a quantity: decimals with point or comma, fractions, mixed numbers, sums of units.

>>> round(read("1 ft 5 1/2 in", Kind.LENGTH).si, 6)
0.4445
>>> read("49,4 N·m", Kind.TORQUE).si
49.4
"""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from itertools import pairwise

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import THIN, number, quantity
from reckoner.core.quantities.units import LIMITS, Kind, Unit, read_as, unit_named
from reckoner.core.translation import tr


@dataclass(frozen=True)
class Quantity:
    """What was understood: ``si`` in SI units, the unit of the entry's last term (remembered per field), and a ``note`` on
    how it was read where that wants one."""

    si: float
    unit: Unit
    note: str = ""

    @property
    def kind(self) -> Kind:
        return self.unit.kind

    def in_unit(self, unit: Unit) -> float:
        return unit.from_si(self.si)


_LOOKALIKES = str.maketrans(
    {
        "−": "-", "–": "-", "‐": "-", "‑": "-", "\u00a0": " ", "\u2009": " ", "\u202f": " ", "\t": " ",
        "·": ".", "⋅": ".", "∙": ".", "•": ".", "‧": ".", "×": "*", "²": "^2", "³": "^3",
        "′": "'", "’": "'", "″": '"', "”": '"',
        "⁄": "/", "º": "°",
        "½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅓": " 1/3", "⅔": " 2/3",
        "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8",
    }
)  # fmt: skip

_TERM = re.compile(
    r"""\s*(?P<join>\+)?\s*
    (?P<number>
        \d+(?:\s+|-\s*)\d+/\d+         # 5 1/2, 5-1/2 and 5-½
      | \d+/\d+                        # 1/2
      | \d{1,3}(?:\ \d{3})+(?![\d])(?:[.,]\d+)?  # 12 345,6
      | (?:\d[\d.,]*|[.,]\d+)(?:[eE][+-]?\d+)?
    )
    \s*
    (?P<unit>(?:[^\W\d_]|[°%‰'"])(?:[^\W\d_]|[.\-*/\ °'"]|\^[23]|(?<=[ms])[23](?![\d.,/]))*)?
    """,
    re.VERBOSE,
)


def read(text: str, kind: Kind, *, default: Unit | None = None, field: str = "value") -> Quantity:
    """The quantity of ``kind`` that ``text`` says.

    A bare number takes ``default``'s unit, or is refused where there is none. Raises InputRefused with a sentence
    naming ``field`` for whatever cannot be understood, is ambiguous ("1,234"), not finite or out of reason.
    """
    cleaned = text.strip().translate(_LOOKALIKES).strip()
    if not cleaned:
        raise InputRefused(field, text, tr("is empty; give a {kind} with its unit", kind=tr(kind)))
    sign = 1.0
    if cleaned[0] in "+-":
        sign = -1.0 if cleaned[0] == "-" else 1.0
        cleaned = cleaned[1:].strip()
    terms: list[tuple[float, Unit]] = []
    note = ""
    at = 0
    while at < len(cleaned):
        match = _TERM.match(cleaned, at)
        if match is None or (match["join"] and not terms):
            raise _not_understood(text, kind, field)
        terms.append(_term(match, text, kind, default, field))
        note = note or read_as(match["unit"] or "", terms[-1][1])
        at = match.end()
    if not terms:  # a sign alone
        raise _not_understood(text, kind, field)
    sizes = [unit.size for _, unit in terms]
    if any(later >= earlier for earlier, later in pairwise(sizes)) and "+" not in cleaned:
        raise InputRefused(
            field, text, tr('"{text}" adds parts that do not get smaller; write the sum with "+"', text=text)
        )
    si = sign * sum(unit.to_si(number) for number, unit in terms)
    if not math.isfinite(si) or abs(si) > LIMITS[kind]:
        raise InputRefused(
            field, text, tr('"{text}" is out of reason for a {kind} on a bench', text=text, kind=tr(kind))
        )
    return Quantity(si, terms[-1][1], note)


def _not_understood(text: str, kind: Kind, field: str) -> InputRefused:
    article = "an" if kind in (Kind.ANGLE, Kind.ACCELERATION) else "a"
    return InputRefused(field, text, tr('"{text}" is not {article} {kind}', text=text, article=article, kind=tr(kind)))


def _term(match: re.Match[str], text: str, kind: Kind, default: Unit | None, field: str) -> tuple[float, Unit]:
    number = _number(match["number"], text, kind, field)
    spelling = (match["unit"] or "").strip()
    if spelling:
        return number, unit_named(spelling.rstrip("."), kind, field)
    if default is None:
        raise InputRefused(
            field,
            text,
            tr(
                '"{text}" has no unit; write it with one, such as "{text} {example}"', text=text, example=_example(kind)
            ),
        )
    return number, default


def _example(kind: Kind) -> str:
    return {
        Kind.TORQUE: "N.m", Kind.LENGTH: "mm", Kind.MASS: "kg", Kind.FORCE: "N", Kind.ANGLE: "deg", Kind.TIME: "s",
        Kind.ACCELERATION: "m/s^2", Kind.DENSITY: "kg/m^3", Kind.RATIO: "%",
    }[kind]  # fmt: skip


def _number(digits: str, text: str, kind: Kind, field: str) -> float:
    if "/" in digits:
        whole, _, fraction = digits.replace("-", " ").rpartition(" ")
        part, _, over = fraction.partition("/")
        if int(over) == 0:
            raise InputRefused(field, text, tr('"{text}" divides by zero', text=text))
        if whole.strip() and int(part) >= int(over):
            raise InputRefused(
                field,
                text,
                tr('"{text}" can be read two ways: {fraction} is no part of a whole', text=text, fraction=fraction),
            )
        return float(Fraction(fraction)) + (float(whole) if whole.strip() else 0.0)
    if " " in digits:
        return float(digits.replace(" ", "").replace(",", "."))
    return float(_decimal_point(digits, text, kind, field))


def _decimal_point(digits: str, text: str, kind: Kind, field: str) -> str:
    """The digits with a decimal point; "1,234" could be two numbers a thousandfold apart and is refused."""
    separators = [c for c in digits if c in ".,"]
    if len(separators) > 1:
        raise InputRefused(
            field,
            text,
            tr('"{text}" has more than one decimal mark; write it without marks between the thousands', text=text),
        )
    if separators == [","]:
        before, _, after = digits.partition(",")
        if re.fullmatch(r"\d{3}", after) and re.fullmatch(r"[1-9]\d{0,2}", before):
            raise InputRefused(
                field,
                text,
                tr(
                    '"{text}" can be read two ways; write {before}.{after} or {before}{after}',
                    text=text,
                    before=before,
                    after=after,
                ),
            )
        return f"{before or '0'}.{after or '0'}"
    if digits.startswith(".") or digits.endswith("."):
        digits = digits.strip(".")
        return f"0.{digits}" if text.strip().lstrip("+-").startswith(".") else digits
    if not digits:
        raise _not_understood(text, kind, field)
    return digits


def read_plain(text: str, low: float, high: float, unit: str = "", field: str = "value") -> float:
    """A number between ``low`` and ``high``, decimal comma allowed, ``unit`` allowed after it.

    For what has one unit only, such as °C. Raises InputRefused with a sentence.

    >>> read_plain("21,4 °C", -20, 60, "°C")
    21.4
    """
    cleaned = text.strip().translate(_LOOKALIKES).strip()
    if unit and cleaned.casefold().endswith(unit.casefold()):
        cleaned = cleaned[: -len(unit)].strip()
    match = re.fullmatch(r"([+-]?)\s*(\d[\d.,]*|[.,]\d+)", cleaned)
    if match is None:
        raise InputRefused(
            field, text, tr('"{text}" is not a number', text=text) if text.strip() else tr("is empty; give a number")
        )
    value = float(_decimal_point(match[2], text, Kind.RATIO, field)) * (-1 if match[1] == "-" else 1)
    if not low <= value <= high:
        shown = f" {unit}" if unit else ""
        raise InputRefused(
            field,
            text,
            tr(
                "must lie between {low:g} and {high:g}{shown}, not {value:g}",
                low=low,
                high=high,
                shown=shown,
                value=value,
            ),
        )
    return value


_DEGREES = re.compile(r"[°º˚]?\s*([CFK])\s*$", re.IGNORECASE)
ROOM = (-20.0, 60.0)
"""Temperatures of a room in °C; further off is a slip of the keyboard."""


def read_temperature(
    text: str, low: float = ROOM[0], high: float = ROOM[1], *, fahrenheit: bool = False
) -> tuple[float, str]:
    """A temperature in °C between ``low`` and ``high``, and the words for it; a bare number is in °C, or °F where one works
    in ``fahrenheit``; K is read too. Raises InputRefused. Source: °C = (°F − 32)·5/9, exact.

    >>> read_temperature("69.8 °F")
    (21.0, '21\u202f°C, 69.8\u202f°F')
    >>> read_temperature("21,4")
    (21.4, '21.4\u202f°C')
    >>> read_temperature("69.8", fahrenheit=True)[0]
    21.0
    """
    scale = _DEGREES.search(text)
    letter = scale[1].upper() if scale is not None else "F" if fahrenheit else "C"
    given = read_plain(text[: scale.start()] if scale is not None else text, -1000, 1000, "°", "temperature")
    celsius = {"C": given, "F": (given - 32) * 5 / 9, "K": given - 273.15}[letter]
    if not low <= celsius <= high:
        raise InputRefused(
            "temperature",
            text,
            tr("must lie between {low:g} and {high:g} °C, not {celsius:.1f}", low=low, high=high, celsius=celsius),
        )
    words = f"{number(round(celsius, 1))}{THIN}°C"
    if letter == "C":
        return celsius, words
    return celsius, f"{words}, {number(given)}{THIN}{'K' if letter == 'K' else '°F'}"


_BETWEEN = re.compile(r"\s*(?:\bto\b|\.\.\.?|…|–|—|~|(?<=\d)\s*-\s*(?=\d)|(?<=[^\W\d_])\s*-\s*(?=\d)|\s-\s)\s*")
_SLASHED = re.compile(r"(\d+)\s*/\s*(\d+)(?![\d.,/])")
_DENOMINATORS = (2, 4, 8, 16, 32, 64)
"""Of the fractions that people write."""


def read_torque(text: str, unit: Unit) -> tuple[float, str]:
    """A torque in N·m, a bare number being in ``unit``, and the words for what was understood. Raises InputRefused.

    >>> read_torque("39.8", unit_named("N.m", Kind.TORQUE))
    (39.8, 'understood: 39.8\u202fN·m')
    """
    found = read(text, Kind.TORQUE, default=unit, field="torque")
    words = quantity(found.si, unit)
    if found.unit is not unit:
        words += f"  ({quantity(found.si, found.unit)})"
    return found.si, tr("understood: {words}", words=words) + (f"; {found.note}" if found.note else "")


def read_range(text: str, *, default: Unit | None = None, field: str = "range") -> tuple[Quantity, Quantity]:
    """A range of torque: "40-200 N.m", "5 to 25 lbf.ft", "40 N.m … 200 N.m". One number is both ends. A number without a
    unit has that of the other, or ``default``. Raises InputRefused, also for a range that stands upside down, and for what
    may as well be a fraction.

    >>> low, high = read_range("40–200 Nm")
    >>> low.si, high.si
    (40.0, 200.0)
    >>> [round(end.si, 2) for end in read_range("60/600 Nm")]
    [60.0, 600.0]
    """
    parts = [part for part in _BETWEEN.split(text.strip()) if part]
    if len(parts) == 1 and (match := _SLASHED.match(text.strip())) is not None:
        if int(match[2]) in _DENOMINATORS:
            raise InputRefused(
                field, text, tr('"{text}" can be read two ways; write a range such as 40-200 N.m', text=text)
            )
        parts = [match[1], text.strip()[match.start(2) :]]
    if not parts or len(parts) > 2:
        raise InputRefused(field, text, tr('"{text}" is not a range; write it such as 40-200 N.m', text=text))
    high = read(parts[-1], Kind.TORQUE, default=default, field=field)
    low = read(parts[0], Kind.TORQUE, default=high.unit, field=field)
    if len(parts) == 2 and low.si >= high.si:
        raise InputRefused(field, text, tr('"{text}" stands upside down: it begins above where it ends', text=text))
    return low, high


def read_list(text: str, kind: Kind, *, default: Unit | None = None, field: str = "values") -> tuple[Quantity, ...]:
    """Several quantities, rising, with ";" or ", " or "and" between them; one unit at the end counts for all before it.
    Raises InputRefused.

    >>> [round(q.si, 2) for q in read_list("20, 60 and 100 N·m", Kind.TORQUE)]
    [20.0, 60.0, 100.0]
    """
    parts = [part for part in re.split(r";|,\s+|\s+and\s+|\n", text.strip()) if part.strip()]
    if not parts:
        raise InputRefused(field, text, tr("is empty; give a {kind} with its unit", kind=tr(kind)))
    last = read(parts[-1], kind, default=default, field=field)
    found = [read(part, kind, default=last.unit, field=field) for part in parts[:-1]]
    found = sorted([*found, last], key=lambda q: q.si)
    if any(low.si == high.si for low, high in pairwise(found)):
        raise InputRefused(field, text, tr("names one of them twice"))
    return tuple(found)


def read_turn(text: str, field: str = "turn") -> float:
    """A signed number of turns: "0.5", "−3/8", "1 ¼". Raises InputRefused.

    >>> read_turn("−⅜"), read_turn("1 1/4")
    (-0.375, 1.25)
    """
    cleaned = text.translate(_LOOKALIKES).strip()
    match = re.fullmatch(r"([+-]?)\s*(?:(\d{1,3})\s+)?(\d{1,4}/\d{1,4}|\d{1,6}(?:[.,]\d{1,12})?)", cleaned)
    if match is None or re.search(r"/0+$", match[3]) or (match[2] and "/" not in match[3]):
        raise InputRefused(field, text, tr('"{text}" is not a number of turns, such as 0.5 or "-3/8"', text=text))
    size = float(Fraction(match[3].replace(",", "."))) + float(match[2] or 0)
    return -size if match[1] == "-" else size
