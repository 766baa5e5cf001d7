"""Handing the shop's records on: register, histories, loans and job cards as one exchange file, or as tables."""

from __future__ import annotations

import json
from collections.abc import Mapping
from datetime import datetime
from typing import Any

from reckoner.shop.certified import COUNTS
from reckoner.shop.limits import limit_words, stated_limit
from reckoner.shop.numbering import own_number
from reckoner.store.reader import Reader
from reckoner.store.times import day_at, moment

_UNITS = {
    "torque": "N.m", "length": "m", "mass": "kg", "force": "N", "angle": "rad",
}  # fmt: skip

_QUANTITIES: Mapping[str, str] = {
    **dict.fromkeys(
        (
            "minimum", "maximum", "resolution", "zero_tolerance", "adjust_rate", "second_resolution", "main_graduation",
            "adapter_rating",
        ),
        "torque",
    ),
    **dict.fromkeys(
        ("lever_length", "pivot_offset", "own_centre", "head_length", "graduation", "length_uncertainty", "adapter_length"),
        "length",
    ),
    **dict.fromkeys(
        ("own_mass", "stamped", "weighed", "mass_uncertainty", "bears", "scale_step", "scale_uncertainty"),
        "mass",
    ),
    **dict.fromkeys(("reaches", "gauge_step"), "force"),
    "angle_uncertainty": "angle",
    "force_uncertainty": "ratio",
}  # fmt: skip
"""Columns that stand in the file as text with a unit, and what they measure."""

_PEOPLE = "initials, name, may_adjust, may_sign, may_second, may_edit, may_allow"
_MODELS = (
    'maker, name, type, "class", mechanism, minimum, maximum, resolution, unit, drive, directions, lever_length, '
    "pivot_offset, own_mass, own_centre, tolerance, zones, interval_school, approach, adjust_where, adjust_raises, "
    "adjust_lock, adjust_rate, adjust_most_turns, adjust_relieve, adjust_changes, storage, grip_matters, "
    "second_unit, second_resolution, "
    "corrects_adapter, head_length, main_graduation, fee, freight, days_away, price, bench_minutes"
)
_TOOLS = (
    "t.number, t.serial, m.maker || ' ' || m.name AS model, t.place, t.rule_set, t.interval_months, t.cycles_per_year, "
    "t.cycles_per_lent_day, t.in_service, t.owner, t.resolution, t.tolerance, t.zones, t.interval_school, t.lever_length, "
    "t.pivot_offset, t.own_mass, t.own_centre"
)
_REFERENCES = (
    "id, number, serial, maker, model, minimum, maximum, resolution, zero_tolerance, corrected, error_left, link, unit"
)
_GEAR = {
    "weights": ("weight", "box, stamped, weighed, mass_uncertainty, weighed_on, weighed_with"),
    "scales": ("scale", "bears, scale_step, scale_uncertainty"),
    "force_gauges": ("force gauge", "reaches, gauge_step, force_uncertainty, shows_mass"),
    "lengths": ("length", "graduation, length_uncertainty"),
    "levels": ("level", "angle_uncertainty"),
    "adapters": ("adapter", "shape, adapter_length, adapter_rating, adapter_gives"),
}
_YES_NO = (
    "may_adjust", "may_sign", "may_second", "may_edit", "may_allow", "adjust_relieve", "corrects_adapter", "corrected",
    "shows_mass", "grip_matters", "adapter_gives",
)  # fmt: skip
ZERO_IS_NOTHING = ("resolution",)
"""Columns at 0 that the file leaves out: nothing is known."""


def exchange(reader: Reader, now: datetime) -> dict[str, Any]:
    """Everything, as the exchange file holds it."""
    from reckoner.formats.exchange import FORMAT, VERSION

    shop = reader.value("SELECT name FROM shop ORDER BY id LIMIT 1") or ""
    cards = reader.rows("SELECT document FROM job_card WHERE NOT removed ORDER BY number")
    return {
        "format": FORMAT,
        "version": VERSION,
        "made": now.isoformat(timespec="seconds"),
        "shop": shop,
        "register": register(reader),
        "histories": [history(reader, row.id, row.number, str(shop)) for row in the_tools(reader)],
        "cards": [json.loads(row.document) for row in cards],
    }


def the_tools(reader: Reader) -> list[Any]:
    """Id and number of every tool, by number."""
    return reader.rows("SELECT id, number FROM tool WHERE NOT removed ORDER BY number")


def register(reader: Reader) -> dict[str, Any]:
    """The register as its file holds it."""
    made: dict[str, Any] = {
        "people": [_written(r) for r in reader.rows(f"SELECT {_PEOPLE} FROM person WHERE NOT removed ORDER BY id")],
        "models": [_written(r) for r in reader.rows(f"SELECT {_MODELS} FROM tool_model WHERE NOT removed ORDER BY id")],
        "tools": [
            _written(r)
            for r in reader.rows(
                f"SELECT {_TOOLS} FROM tool t JOIN tool_model m ON m.id = t.model_id WHERE NOT t.removed ORDER BY t.number"
            )
        ],
        "references": [
            _reference(reader, r)
            for r in reader.rows(
                f"SELECT {_REFERENCES} FROM reference WHERE NOT removed AND kind = 'meter' ORDER BY id"
            )
        ],
    }
    for name, (kind, columns) in _GEAR.items():
        rows = reader.rows(
            f"SELECT number, serial, due, {columns} FROM gear WHERE NOT removed AND kind = :kind ORDER BY id", kind=kind
        )
        made[name] = [_written(row) for row in rows]
    return made


def _written(row: Any) -> dict[str, Any]:
    """A row as the register file writes it: what says nothing is left out."""
    made: dict[str, Any] = {}
    columns = vars(row)
    for name, value in columns.items():
        if name in ("tolerance", "zones", "id") or value is None or value == "":
            continue
        if name in ZERO_IS_NOTHING and value == 0:
            continue
        if name in _QUANTITIES:
            made[name] = _quantity(value, _QUANTITIES[name])
        elif name in _YES_NO:
            made[name] = bool(value)
        else:
            made[name] = value
    limit = stated_limit(columns.get("tolerance"), columns.get("zones") or "")
    if limit is not None:
        made["tolerance"] = limit_words(limit)
    return made


def _quantity(value: float, measures: str) -> str:
    """In full, so that what is read again is the same."""
    if measures == "ratio":
        return f"{value * 100:.15g} %"
    return f"{value!r} {_UNITS[measures]}"


_CERTIFICATES = f"""
SELECT id, number, laboratory, issued, due, coverage_factor FROM certificate c WHERE reference_id = :id
  AND {COUNTS} ORDER BY issued, id
"""


def _reference(reader: Reader, row: Any) -> dict[str, Any]:
    made = _written(row)
    certificates = []
    for one in reader.rows(_CERTIFICATES, id=row.id):
        points = reader.rows(
            "SELECT torque, error, expanded_uncertainty FROM certificate_point WHERE certificate_id = :id ORDER BY torque",
            id=one.id,
        )
        certificates.append(
            {
                "number": one.number,
                "laboratory": one.laboratory,
                "issued": one.issued,
                "due": one.due,
                "coverage_factor": one.coverage_factor,
                "points": [
                    {
                        "torque": _quantity(p.torque, "torque"),
                        "error": _quantity(p.error, "ratio"),
                        "uncertainty": _quantity(p.expanded_uncertainty, "ratio"),
                    }
                    for p in points
                ],
            }
        )
    return made | {"certificates": certificates}


# Histories

_EVENTS = """
SELECT e.id, e.sequence, e.at, e.kind, e.note, e.due_back, e.low, e.high, e.cycles, p.initials, t.fee, t.freight
FROM tool_event e LEFT JOIN person p ON p.id = e.person_id LEFT JOIN trip t ON t.event_id = e.id
WHERE e.tool_id = :tool ORDER BY e.sequence
"""

_SETTINGS = """
SELECT l.event_id, l.job, l.joint, l.torque_set, l.factor, l.adapter, l.low, l.high FROM loan_setting l
JOIN tool_event e ON e.id = l.event_id WHERE e.tool_id = :tool ORDER BY l.id
"""

_SIGNED = """
SELECT g.id, g.run_id, g.sequence, g.at, g.state, g.due, c.number AS certificate, g.sentence, p.initials FROM signature g
JOIN run r ON r.id = g.run_id JOIN person p ON p.id = g.person_id
LEFT JOIN certificate_number c ON c.signature_id = g.id
WHERE r.tool_id = :tool AND r.kind IN ('full', 'check', 'event') AND g.state <> 'compared'
  AND NOT EXISTS (SELECT 1 FROM run a JOIN signature b ON b.run_id = a.id WHERE a.amends_id = r.id)
ORDER BY g.sequence
"""

_SIGNED_POINTS = """
SELECT p.signature_id, s.phase, p.direction, p.target, p.deviation, p.expanded_uncertainty,
  COALESCE(p."limit", g."limit") AS allowed
FROM point_result p JOIN series s ON s.id = p.series_id JOIN signature g ON g.id = p.signature_id
JOIN run r ON r.id = g.run_id WHERE r.tool_id = :tool AND s.phase IN ('found', 'left') ORDER BY p.id
"""

_OUTSIDE = """
SELECT o.id, o.sequence, o.at, o.number, o.laboratory, o.issued, o.due, o.state, o.coverage_factor, o.note, p.initials
FROM outside_result o LEFT JOIN person p ON p.id = o.person_id WHERE o.tool_id = :tool ORDER BY o.sequence
"""

_OUTSIDE_POINTS = """
SELECT q.outside_result_id, q.as_left, q.direction, q.target, q.deviation, q.expanded_uncertainty, q."limit" AS allowed
FROM outside_point q JOIN outside_result o ON o.id = q.outside_result_id WHERE o.tool_id = :tool ORDER BY q.id
"""


def history(reader: Reader, tool_id: int, tool: str, shop: str) -> dict[str, Any]:
    """What happened to a tool and what was found of it, in its own order; a run here becomes a result of this ``shop``."""
    found: list[tuple[int, dict[str, Any]]] = []
    settings: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_SETTINGS, tool=tool_id):
        said = {"job": row.job, "joint": row.joint, "set": row.torque_set, "factor": row.factor, "adapter": row.adapter}
        settings.setdefault(row.event_id, []).append(_said(said | {"low": row.low, "high": row.high}))
    for row in reader.rows(_EVENTS, tool=tool_id):
        said = {
            "at": _time(row.at), "by": row.initials or "", "kind": row.kind, "note": row.note, "due_back": row.due_back,
            "low": row.low, "high": row.high, "cycles": row.cycles, "settings": settings.get(row.id, []), "fee": row.fee,
            "freight": row.freight,
        }  # fmt: skip
        found.append((row.sequence, _said(said)))
    points: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_SIGNED_POINTS, tool=tool_id):
        points.setdefault(row.signature_id, []).append(_point(row, left=row.phase == "left"))
    for row in reader.rows(_SIGNED, tool=tool_id):
        on = day_at(row.at)
        found.append((row.sequence, _result(row, row.certificate or own_number(row.run_id), shop or "this shop",
                                            on.isoformat(), row.sentence, points.get(row.id, []))))  # fmt: skip
    outside: dict[int, list[dict[str, Any]]] = {}
    for row in reader.rows(_OUTSIDE_POINTS, tool=tool_id):
        outside.setdefault(row.outside_result_id, []).append(_point(row, left=bool(row.as_left)))
    for row in reader.rows(_OUTSIDE, tool=tool_id):
        said = _result(row, row.number, row.laboratory, row.issued, row.note, outside.get(row.id, []))
        found.append((row.sequence, said | _said({"coverage_factor": row.coverage_factor})))
    return {"tool": tool, "entries": [said for _, said in sorted(found, key=lambda one: one[0])]}


def _result(
    row: Any, numbered: str, laboratory: str, issued: str, note: str, points: list[dict[str, Any]]
) -> dict[str, Any]:
    return _said(
        {
            "at": _time(row.at),
            "by": row.initials or "",
            "note": note,
            "number": numbered,
            "laboratory": laboratory,
            "issued": issued,
            "due": row.due,
            "state": row.state,
            "coverage_factor": 2.0,
            "points": points,
        }
    )


def _point(row: Any, *, left: bool) -> dict[str, Any]:
    return {
        "as_left": left, "direction": row.direction, "target": row.target, "deviation": row.deviation,
        "expanded_uncertainty": row.expanded_uncertainty, "limit": row.allowed,
    }  # fmt: skip


def _said(values: Mapping[str, Any]) -> dict[str, Any]:
    """Without what says nothing."""
    return {name: value for name, value in values.items() if value is not None and value not in ("", [])}


def _time(at: str) -> str:
    return moment(at).isoformat()
