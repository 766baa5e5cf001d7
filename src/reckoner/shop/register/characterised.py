"""What was characterised of a tool or of its model, and when, as their sheets say it."""

from __future__ import annotations

from typing import Any

from reckoner.core.budget import Effect
from reckoner.core.days import day_words
from reckoner.core.printing import quantity, uncertainty_decimals
from reckoner.core.translation import tr
from reckoner.core.units import Kind, Unit, unit_named
from reckoner.shop.register.sheet import day_written
from reckoner.shop.wording import EFFECT_WORDS, freedom_words
from reckoner.store.reader import Reader

_NEWEST = """
SELECT c.*, t.number, m.unit
FROM characterisation c JOIN run u ON u.id = c.run_id JOIN tool t ON t.id = u.tool_id JOIN tool_model m ON m.id = t.model_id
WHERE {which} ORDER BY c.tool_id IS NULL, c.id DESC LIMIT 1
"""

NOTHING = tr(
    "Not characterised: budgets take remounting, drive, adapter and hand as nothing, and say so. "
    "A characterisation on the Bench measures them, for one tool or for its model."
)


def of_tool(reader: Reader, tool_id: int, model_id: int) -> str:
    """What counts for a tool: its own newest characterisation, else its model's."""
    which = "c.tool_id = :tool OR c.model_id = :model"
    return _words(reader.row(_NEWEST.format(which=which), tool=tool_id, model=model_id))


def of_model(reader: Reader, model_id: int) -> str:
    """What counts for all tools of a model that have none of their own."""
    return _words(reader.row(_NEWEST.format(which="c.model_id = :model"), model=model_id))


def _words(row: Any | None) -> str:
    """Such as "Characterised on 3 Mar 2026 with HC-0417, for its model: remounting 0.42 N·m at 120 N·m."."""
    if row is None:
        return NOTHING
    unit = unit_named(row.unit, Kind.TORQUE)
    measured = [
        f"{EFFECT_WORDS[effect].lower()} {_amount(getattr(row, effect.value), getattr(row, f'{effect}_freedom'), unit)}"
        for effect in Effect
        if getattr(row, effect.value) is not None
    ]
    whose = tr("with {number}, for its model", number=row.number) if row.model_id is not None else tr("itself")
    day = day_words(day_written(row.at))
    return tr(
        "Characterised on {day} {whose}: {list} at {target}.",
        day=day,
        whose=whose,
        list=", ".join(measured),
        target=quantity(row.target, unit),
    )


def _amount(b: float, freedom: float | None, unit: Unit) -> str:
    known = f" (ν {freedom_words(freedom)})" if freedom is not None else ""
    return f"{quantity(b, unit, uncertainty_decimals(unit.from_si(b)))}{known}"
