"""From the scenario to a database with three years of history.

Readings are drawn from each tool's story; verdicts, due dates and holds come from the same code that the bench uses.
"""

from __future__ import annotations

import json
import zlib
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from typing import Any

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import Kind
from reckoner.core.requirements.tooltypes import Mechanism, ToolType, implied
from reckoner.core.tightening.jobs import EntryKind
from reckoner.demo.scenario import demo_today, scenario
from reckoner.formats import rulesets
from reckoner.formats.jobcard import FORMAT, VERSION, parse
from reckoner.meters.wrench import Truth
from reckoner.shop.events.recording import record_event
from reckoner.shop.facts.judged import RunFacts
from reckoner.shop.facts.tool import ToolFacts, tool_facts
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedures.choosing import LinkedReference, references, weighed
from reckoner.shop.references.crosschecks import cross_check
from reckoner.shop.register import registerfile
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.intake import take_in
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import document, signing
from reckoner.shop.runs.inspection import asked_of
from reckoner.shop.runs.loading import load as run_state
from reckoner.shop.runs.loading import measured_effects
from reckoner.shop.runs.records import HALF, NOTHING, OF
from reckoner.shop.using.cards import keep
from reckoner.shop.using.working import begin, enter
from reckoner.store.database import Database
from reckoner.store.schema import (
    ExercisePull,
    FactsDocument,
    InspectionLine,
    LoanSetting,
    Observation,
    Person,
    Reference,
    RoomReading,
    Run,
    Series,
    SetUp,
    Tool,
    ZeroCheck,
)
from reckoner.store.terms import (
    EventKind,
    ObservationKind,
    PhaseKind,
    RegisterKind,
    RunKind,
    Source,
    ZeroMoment,
    ZeroOf,
)

YEAR = 365.25

BEGAN = timedelta(days=4 * 365)
"""How long before the scenario's day the register was begun."""


@dataclass(frozen=True)
class HiddenTruth:
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


def story_of(number: str) -> HiddenTruth:
    """The story told for a tool, or a quiet one drawn from its number."""
    told: Mapping[str, Any] = next((s for s in scenario().get("stories", ()) if s["tool"] == number), {})
    rng = np.random.default_rng([scenario()["seed"], zlib.crc32(number.encode())])
    start, per_year, last = rng.normal(0.3, 0.7) / 100, rng.normal(0.1, 0.25) / 100, int(rng.integers(40, 330))

    def ratio(key: str, otherwise: float) -> float:
        return read(told[key], Kind.RATIO).si if key in told else otherwise

    newest = demo_today() - timedelta(days=last)
    yearly = tuple(newest - timedelta(days=364 * back) for back in (2, 1, 0))
    return HiddenTruth(
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
            shows=implied(Mechanism(model["mechanism"]), ToolType(model["type"])).keeps_value,
            screw_rate=_screw_rate(model),
        )
    return made


def _screw_rate(model: Mapping[str, Any]) -> float:
    """N·m that a clockwise turn of the model's screw really adds: a little more than its maker says."""
    rate = 1.06 * read(model["adjust_rate"], Kind.TORQUE).si if "adjust_rate" in model else 0.0
    return rate if model.get("adjust_raises", "cw") == "cw" else -rate


def build(database: Database, progress: Callable[[int, int], None] = lambda _done, _of: None) -> None:
    """Write the scenario into an empty ``database``: all of it or nothing. ``progress`` is told how many of the tools have
    their history, and of how many."""
    with database.session() as session:
        take_in(session, registerfile.validate(scenario()["register"], "scenario.toml"), at(demo_today() - BEGAN, 8, 0))
        people = list(session.scalars(select(Person).order_by(Person.id)))
        named = Act(people[0].id, at(demo_today() - BEGAN, 8, 0))
        edit(session, RegisterKind.SHOP, the_shop(session), scenario()["shop"], named)
        tools = list(session.scalars(select(Tool).order_by(Tool.number)))
        meters = references(session)
        for done, row in enumerate(tools):
            progress(done, len(tools))
            _live(session, row, people, meters)
            session.expunge_all()  # what is written need not be looked after any more
            session.add_all(people)
        _cross_checks(session, people[0])
        _jobs(session, people[0])
        progress(len(tools), len(tools))


def _cross_checks(session: Session, person: Person) -> None:
    """The meters held against each other, as the scenario tells."""
    for told in scenario()["cross_checks"]:
        reference = session.scalars(select(Reference).where(Reference.number == told["reference"])).one()
        actual = read(told["actual"], Kind.TORQUE).si
        for i, difference in enumerate(told["differences"]):
            shown = actual * (1 + read(difference, Kind.RATIO).si)
            act = Act(person.id, at(told["begins"] + timedelta(days=i * told["every_days"]), 7, 40))
            cross_check(session, reference.id, shown, actual, told["against"], "", act)


def _live(session: Session, row: Tool, people: list[Person], meters: tuple[LinkedReference, ...]) -> None:
    """One tool's years: its events and runs in the order of their dates."""
    row = session.get_one(Tool, row.id)
    tool, story = tool_facts(row), story_of(row.number)
    rng = np.random.default_rng([scenario()["seed"], zlib.crc32(row.number.encode()), 2])
    days: list[tuple[date, int, Any]] = [(day, 0, None) for day in story.runs]
    days += [(event["on"], 1 + i, event) for i, event in enumerate(story.happened)]
    for day, _, event in sorted(days, key=lambda t: t[:2]):
        person = people[int(rng.integers(len(people)))]
        if event is None:
            write_run(session, tool, story, day, Act(person.id, at(day, 9, int(rng.integers(0, 50)))), meters, rng)
        else:
            act = Act(person.id, at(day, 8, 20))
            kind = EventKind(event["kind"])
            made = record_event(session, row.id, kind, event["note"], act, due_back=event.get("due_back"))
            session.flush()
            session.add_all(_setting(made.id, told) for told in event.get("settings", ()))


def _setting(event_id: int, told: Mapping[str, Any]) -> LoanSetting:
    """What a loan was for, as the scenario tells it."""
    torque_set, low, high = (read(told[key], Kind.TORQUE).si for key in ("set", "low", "high"))
    return LoanSetting(
        event_id=event_id, job=told["job"], joint=told["joint"], torque_set=torque_set, low=low, high=high
    )


def _jobs(session: Session, person: Person) -> None:
    """The job cards, and the first of them begun."""
    cards = [parse(json.dumps({"format": FORMAT, "version": VERSION, **told})) for told in scenario().get("cards", ())]
    act = Act(person.id, at(demo_today() - timedelta(days=1), 13, 10))
    ids = [keep(session, card, act)[0] for card in cards]
    if not cards:
        return
    work_id = begin(session, cards[0], act, ids[0])
    order = cards[0].plan.order
    for i, fastener in enumerate(order[:7]):
        later = Act(person.id, act.at + timedelta(seconds=40 * (i + 1)))
        enter(session, work_id, EntryKind.DONE, 0, fastener, later)


def write_run(
    session: Session,
    tool: ToolFacts,
    story: HiddenTruth,
    day: date,
    act: Act,
    meters: tuple[LinkedReference, ...],
    rng: np.random.Generator,
) -> None:
    """A full run on ``day``, signed."""
    text = rulesets.whole_text(tool.rule_set, tool.rule_set)
    rules = rulesets.shipped(tool.rule_set)
    begun = act.at
    run = Run(tool_id=tool.id, kind=RunKind.FULL, rule_set=rules.name, opened_at=begun, person_id=act.person_id)
    run.inspections = [InspectionLine(at=begun, line=n, fine=True) for n in asked_of(tool)]
    run.room = [RoomReading(at=begun, temperature=round(float(rng.normal(21.2, 0.8)), 1), humidity=0.46)]
    meter = weighed(meters, tool, rules, day)[0].reference
    facts = RunFacts(tool, rules, text, measured_effects(session, tool), meter)
    run.facts = [FactsDocument(at=begun, document=document.write(facts))]
    run.set_ups = [SetUp(at=begun, reference_id=meter.id, certificate_id=meter.certificate_id, mode=tool.implies.mode)]
    run.zero_checks = _zeros(tool, meter.zero_tolerance, begun, ZeroMoment.BEFORE)
    deviation = story.deviation(day)
    for direction in tool.directions:
        run.exercises += [
            ExercisePull(at=begun, direction=direction, torque=tool.kind.maximum) for _ in range(rules.exercise)
        ]
    planned = [(d, t, rules.readings_for(tool.kind)) for d in tool.directions for t in rules.points(tool.kind)]
    displayed: list[float | None] = []
    for position, (direction, target, count) in enumerate(planned):
        bias = float(rng.normal(0, 0.0015))
        series = Series(phase=PhaseKind.FOUND, direction=direction, position=position, target=target, wanted=count)
        for i in range(count):
            aim = target * (1 + float(rng.normal(0, 0.008))) if tool.implies.keeps_value else target
            torque = (aim / (1 + deviation + bias) + story.offset(day)) * (1 + float(rng.normal(0, story.scatter)))
            displayed.append(
                round(aim / tool.kind.resolution) * tool.kind.resolution if tool.implies.keeps_value else None
            )
            shown = round(torque / meter.resolution) * meter.resolution
            taken = begun + timedelta(minutes=4 + position * 3, seconds=20 * i)
            series.observations.append(
                Observation(
                    at=taken,
                    person_id=act.person_id,
                    torque=shown,
                    source=Source.METER,
                    detail=json.dumps({HALF: True}) if tool.implies.keeps_value else NOTHING,
                    strike=None,
                    trace=None,
                )
            )
        run.series.append(series)
    signed = begun + timedelta(minutes=5 + len(run.series) * 3)
    run.zero_checks += _zeros(tool, meter.zero_tolerance, signed, ZeroMoment.AFTER)
    session.add(run)
    session.flush()
    if tool.implies.keeps_value:
        _displayed(session, run, displayed)
    signing.conclude(session, run_state(session, run.id), Act(act.person_id, signed + timedelta(minutes=1)))


def _displayed(session: Session, run: Run, values: list[float | None]) -> None:
    """What the tool's own display showed of each pull, beside what was read."""
    for series in run.series:
        for pulled in tuple(series.observations):
            series.observations.append(
                Observation(
                    at=pulled.at,
                    person_id=pulled.person_id,
                    kind=ObservationKind.SHOWN,
                    torque=None,
                    tool_value=values.pop(0),
                    source=Source.TYPED,
                    detail=json.dumps({OF: pulled.id}),
                    strike=None,
                    trace=None,
                )
            )
    session.flush()


def _zeros(tool: ToolFacts, allowed: float, at: datetime, moment: ZeroMoment) -> list[ZeroCheck]:
    """The meter's zero, and the tool's own where it has a pointer."""
    looks = [ZeroCheck(at=at, moment=moment, torque=0.0, allowed=allowed)]
    if not tool.kind.is_setting:
        looks.append(ZeroCheck(at=at, moment=moment, of=ZeroOf.POINTER, torque=0.0, allowed=tool.kind.resolution))
    return looks


def at(day: date, hour: int, minute: int) -> datetime:
    """A time of day where the cableway is, which is everywhere the same."""
    return datetime.combine(day, time(hour, minute), UTC)
