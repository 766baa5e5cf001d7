"""From the scenario to a database with three years of history.

Readings are drawn from each tool's story; verdicts, due dates and holds come from the same code that the bench uses.
"""

from __future__ import annotations

import zlib
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.entry import read
from reckoner.core.kinds import MeterMode
from reckoner.core.units import Kind
from reckoner.demo.scenario import demo_today, scenario
from reckoner.formats import register, rulesets
from reckoner.meters.wrench import Truth
from reckoner.shop import signing
from reckoner.shop.acts import Act
from reckoner.shop.facts import ToolFacts, tool_facts
from reckoner.shop.inspection import inspection_lines
from reckoner.shop.intake import take_in
from reckoner.shop.references import candidates
from reckoner.shop.runload import load as run_state
from reckoner.store.database import Database
from reckoner.store.schema import (
    ExercisePull,
    InspectionLine,
    Person,
    Reading,
    RoomReading,
    Run,
    Series,
    SetUp,
    Tool,
    ToolEvent,
    ZeroCheck,
)

YEAR = 365.25


@dataclass(frozen=True)
class Story:
    """A tool's hidden truth over time: deviation as a fraction at its first test, drift a year, jumps, scatter; offsets in
    N·m, which an adjusting screw can take away again."""

    start: float
    per_year: float
    scatter: float
    runs: tuple[date, ...]
    jumps: tuple[tuple[date, float], ...] = ()
    offsets: tuple[tuple[date, float], ...] = ()
    happened: tuple[Mapping[str, Any], ...] = field(default=())

    def deviation(self, on: date) -> float:
        begun = self.runs[0] if self.runs else on
        years = max(0.0, (on - begun).days / YEAR)
        return self.start + self.per_year * years + sum(by for day, by in self.jumps if on >= day)

    def offset(self, on: date) -> float:
        """What every setting delivers more or less, in N·m."""
        return sum(by for day, by in self.offsets if on >= day)


def story_of(number: str) -> Story:
    """The story told for a tool, or a quiet one drawn from its number."""
    told: Mapping[str, Any] = next((s for s in scenario().get("stories", ()) if s["tool"] == number), {})
    rng = np.random.default_rng([scenario()["seed"], zlib.crc32(number.encode())])
    start, per_year, last = rng.normal(0.3, 0.7) / 100, rng.normal(0.1, 0.25) / 100, int(rng.integers(40, 330))

    def ratio(key: str, otherwise: float) -> float:
        return read(told[key], Kind.RATIO).si if key in told else otherwise

    newest = demo_today() - timedelta(days=last)
    yearly = tuple(newest - timedelta(days=364 * back) for back in (2, 1, 0))
    return Story(
        start=ratio("start", float(start)),
        per_year=ratio("per_year", float(per_year)),
        scatter=ratio("scatter", 0.0035),
        runs=tuple(told.get("runs", yearly)),
        jumps=tuple((j["on"], read(j["by"], Kind.RATIO).si) for j in told.get("jumps", ()) if "by" in j),
        offsets=tuple((j["on"], read(j["offset"], Kind.TORQUE).si) for j in told.get("jumps", ()) if "offset" in j),
        happened=tuple(told.get("happened", ())),
    )


def truths() -> dict[str, Truth]:
    """What the stand-in's tools really are on the scenario's day, by number."""
    made = {}
    models = {f"{m['maker']} {m['name']}": m for m in scenario()["register"]["models"]}
    for row in scenario()["register"]["tools"]:
        story, model = story_of(row["number"]), models[row["model"]]
        lever = read(model["lever_length"], Kind.LENGTH).si if "lever_length" in model else 0.0
        made[row["number"]] = Truth(
            gain=1 / (1 + story.deviation(demo_today())),
            offset=story.offset(demo_today()),
            scatter=story.scatter,
            loose_lock=0.012 if row["number"] == "HC-0430" else 0.0,
            lever=lever or 0.1,
            pivot=read(model.get("pivot_offset", "0 mm"), Kind.LENGTH).si if lever else 0.0,
            clicks=model["type"] == "II",
            screw_rate=_screw_rate(model),
        )
    return made


def _screw_rate(model: Mapping[str, Any]) -> float:
    """N·m that a clockwise turn of the model's screw really adds: a little more than its maker says."""
    rate = 1.06 * read(model["adjust_rate"], Kind.TORQUE).si if "adjust_rate" in model else 0.0
    return rate if model.get("adjust_raises", "cw") == "cw" else -rate


def build(database: Database) -> None:
    """Write the scenario into an empty ``database``."""
    with database.session() as session:
        take_in(session, register.validate(scenario()["register"], "scenario.toml"))
        session.flush()
        people = list(session.scalars(select(Person).order_by(Person.id)))
        tools = list(session.scalars(select(Tool).order_by(Tool.number)))
        for row in tools:
            _live(session, row, people)


def _live(session: Session, row: Tool, people: list[Person]) -> None:
    """One tool's years: its events and runs in the order of their dates."""
    tool, story = tool_facts(row), story_of(row.number)
    rng = np.random.default_rng([scenario()["seed"], zlib.crc32(row.number.encode()), 2])
    days: list[tuple[date, int, Any]] = [(day, 0, None) for day in story.runs]
    days += [(event["on"], 1 + i, event) for i, event in enumerate(story.happened)]
    for day, _, event in sorted(days, key=lambda t: t[:2]):
        person = people[int(rng.integers(len(people)))]
        if event is None:
            _test(session, tool, story, day, person, rng)
        else:
            session.add(
                ToolEvent(
                    tool_id=row.id, at=_at(day, 8, 20), person_id=person.id, kind=event["kind"], note=event["note"],
                    due_back=event.get("due_back"),
                )
            )  # fmt: skip
            session.flush()


def _test(session: Session, tool: ToolFacts, story: Story, day: date, person: Person, rng: np.random.Generator) -> None:
    """A full run on ``day``, signed."""
    text = rulesets.whole_text(tool.rule_set, tool.rule_set)
    rules = rulesets.shipped(tool.rule_set)
    begun = _at(day, 9, int(rng.integers(0, 50)))
    run = Run(
        tool_id=tool.id, kind="full", rule_set=rules.name, rule_set_text=text, opened_at=begun, person_id=person.id
    )
    run.inspections = [InspectionLine(at=begun, line=n, fine=True) for n in inspection_lines(tool.mechanism)]
    run.room = [RoomReading(at=begun, temperature=round(float(rng.normal(21.2, 0.8)), 1), humidity=0.46)]
    suits = candidates(session, tool, rules, day)[0]
    run.set_ups = [
        SetUp(
            at=begun, reference_id=suits.reference.id, certificate_id=suits.reference.certificate_id,
            mode=MeterMode(tool.implies.mode).value,
        )
    ]  # fmt: skip
    allowed = suits.reference.zero_tolerance
    run.zero_checks = [ZeroCheck(at=begun, when="before", torque=0.0, allowed=allowed)]
    if not tool.kind.is_setting:
        run.zero_checks.append(ZeroCheck(at=begun, when="pointer before", torque=0.0, allowed=tool.kind.resolution))
    deviation = story.deviation(day)
    for direction in tool.directions:
        run.exercises += [
            ExercisePull(at=begun, direction=direction, torque=tool.kind.maximum) for _ in range(rules.exercise)
        ]
    planned = [(d, t, rules.readings_for(tool.kind)) for d in tool.directions for t in rules.points(tool.kind)]
    for position, (direction, target, count) in enumerate(planned):
        bias = float(rng.normal(0, 0.0015))
        series = Series(phase="as found", direction=direction, position=position, target=target, wanted=count)
        for i in range(count):
            torque = (target / (1 + deviation + bias) + story.offset(day)) * (1 + float(rng.normal(0, story.scatter)))
            shown = round(torque / suits.reference.resolution) * suits.reference.resolution
            at = begun + timedelta(minutes=4 + position * 3, seconds=20 * i)
            series.readings.append(Reading(at=at, person_id=person.id, torque=shown, source="meter value"))
        run.series.append(series)
    signed = begun + timedelta(minutes=5 + len(run.series) * 3)
    run.zero_checks.append(ZeroCheck(at=signed, when="after", torque=0.0, allowed=allowed))
    if not tool.kind.is_setting:
        run.zero_checks.append(ZeroCheck(at=signed, when="pointer after", torque=0.0, allowed=tool.kind.resolution))
    session.add(run)
    session.flush()
    signing.conclude(session, run_state(session, run.id), Act(person.id, signed + timedelta(minutes=1)))


def _at(day: date, hour: int, minute: int) -> datetime:
    return datetime.combine(day, time(hour, minute), UTC)
