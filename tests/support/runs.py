"""Runs made through the shop's own functions, on the demo's day."""

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import date, timedelta

from sqlalchemy import select

from reckoner.shop.procedures.choosing import candidates
from reckoner.shop.procedures.weights import what_hangs
from reckoner.shop.runs import opening, setting_up, taking
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import Step
from reckoner.store.schema import Tool
from reckoner.store.terms import ZeroMoment

TODAY = date(2026, 11, 24)


def later(act, hours):
    return replace(act, at=act.at + timedelta(hours=hours))


def tool_id(database, number):
    """The id of a tool, also while a unit of work is under way."""
    with closing(sqlite3.connect(database.path)) as connection:
        return connection.execute("SELECT id FROM tool WHERE number = ?", (number,)).fetchone()[0]


def tool_id_in(session, number):
    """The same within a unit of work, also of what it has changed itself."""
    return session.scalar(select(Tool.id).where(Tool.number == number.upper().replace(" ", "-")))


def read(session, run, torque, act):
    """A reading typed: what the run's reference shows of ``torque``, whose known error it has."""
    series = run.current
    shown = torque * (run.reference.correction(series.target) if series and run.reference else 1.0)
    return taking.observe(session, run.id, taking.typed(shown), act, run)


def looked_over(session, run, act):
    return setting_up.look_over_all(session, run.id, act)


def set_up(session, run, reference_id, act, reason="", *, room=True):
    """Reference, room and zeros, and the exercise counted by hand."""
    run = setting_up.choose_reference(session, run.id, reference_id, reason, act)
    if room:
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
    else:
        run = setting_up.record_room_not_measured(session, run.id, act)
    run = setting_up.record_zero(session, run.id, ZeroMoment.BEFORE, 0.001, act)
    if not run.tool.kind.is_setting and run.policy.judges:
        run = setting_up.record_pointer(session, run.id, ZeroMoment.BEFORE, 0.0, act)
    while run.step is Step.AS_IT_CAME:
        run = read(session, run, run.current.target, act)
    while run.exercising:
        run = taking.record_exercise(session, run.id, None, act)
    return run


def prepared(session, number_id, act):
    """A full run ready for its first reading."""
    run = looked_over(session, opening.open_run(session, number_id, act), act)
    return set_up(session, run, candidates(session, run.tool, run.rules, TODAY)[0].reference.id, act)


def ready(session, wanted, act, kind, *, room=True, **changed):
    """A run of a kind as proposed but for what is ``changed``, ready for its first reading."""
    plan = replace(propose(session, wanted, TODAY, kind).plan, **changed)
    run = looked_over(session, opening.open_run(session, wanted, act, plan), act)
    points = tuple(s.target for s in run.found)
    best = candidates(session, run.tool, run.rules, TODAY, points)[0]
    return set_up(session, run, best.reference.id, act, "a check" if best.against else "", room=room)


def closed(session, run, act, zero_after=0.0):
    """The zeros after the readings, an hour later."""
    run = setting_up.record_zero(session, run.id, ZeroMoment.AFTER, zero_after, later(act, 1))
    if not run.tool.kind.is_setting and run.policy.judges:
        run = setting_up.record_pointer(session, run.id, ZeroMoment.AFTER, 0.0, later(act, 1))
    return run


def read_all(session, run, act, factor, zero_after=0.0):
    """Every reading at ``factor`` times its target, and the zeros after."""
    while run.current:
        run = read(session, run, run.current.target * factor, act)
    return closed(session, run, act, zero_after)


def outside(session, wanted, act, low=0.93, high=0.99):
    """A run whose as-found readings are far off at the lowest point, and good at the others."""
    run = prepared(session, wanted, act)
    while run.current:
        factor = low if run.current.target == 40 else high
        run = read(session, run, run.current.target * factor, act)
    return closed(session, run, act)


REGISTER = """
people = [{ initials = "K. L.", name = "K. Loft" }]
[[models]]
maker = "Skerrivane"
name = "X-50"
type = "II"
class = "A"
mechanism = "click"
minimum = "10 N.m"
maximum = "50 N.m"
[[tools]]
number = "W-1"
model = "Skerrivane X-50"
[[references]]
number = "M-1"
minimum = "5 N.m"
maximum = "50 N.m"
resolution = "0.01 N.m"
zero_tolerance = "0.05 N.m"
"""


def hung_torque(run, target):
    """The torque in N·m that hangs for a target."""
    lever, hung = what_hangs(run, target)
    return lever.torque(hung)
