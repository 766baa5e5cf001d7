"""A beam's scale made or marked anew: known torques against where the pointer stood, kept, drawn, and checked blind.

It follows the beam as it was on the day: wood and plastic drift with humidity and temperature.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime
from functools import cached_property

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.adjusting.beamscale import Mark, Scale, fit
from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import Kind, Unit, unit_named
from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused, note
from reckoner.shop.people.rights import command
from reckoner.store.schema import BeamRepeat, BeamScale, Person, Tool

LONGEST_RADIUS = 3.0
"""m: no pointer is longer."""

DRIFT = tr("Wood and plastic beams drift with humidity and temperature: repeat the check when either has changed.")


@dataclass(frozen=True)
class BeamPlan:
    """Known torques against deflections, and how the scale is drawn: ``every`` N·m a mark, in ``unit``, along an arc of
    ``radius`` m or a straight rule (None). ``against`` is what the torques were made with."""

    marks: tuple[Mark, ...]
    every: float
    unit: Unit
    radius: float | None
    against: str

    @cached_property
    def scale(self) -> Scale:
        """The line through the marks. Raises InputRefused."""
        return fit(self.marks)

    @cached_property
    def graduations(self) -> tuple[Mark, ...]:
        """The marks of the scale. Raises InputRefused."""
        return self.scale.graduations(self.every)


@dataclass(frozen=True)
class Repeat:
    """A blind repeat: pulled to a ``mark``, the reference ``read``; N·m."""

    at: datetime
    mark: float
    read: float

    @property
    def deviation(self) -> float:
        """a = (mark − read)/read."""
        return self.mark / self.read - 1


@dataclass(frozen=True)
class KeptScale:
    """A scale as it was kept, and the repeats since."""

    id: int
    tool: str
    at: datetime
    by: str
    plan: BeamPlan
    repeats: tuple[Repeat, ...]

    @property
    def worst(self) -> float | None:
        """The deviation of the worst blind repeat, a fraction; None without one."""
        return max((r.deviation for r in self.repeats), key=abs, default=None)


@command
def keep(session: Session, tool_id: int, plan: BeamPlan, act: Act) -> KeptScale:
    """Keep a scale that was made. Raises FieldRefused with what cannot be drawn."""
    try:
        graduations = plan.graduations
    except InputRefused as refusal:
        field = "every" if refusal.field == "every" else "marks"
        raise FieldRefused(field, f"{refusal.reason[:1].upper()}{refusal.reason[1:]}.") from None
    if plan.radius is not None and not 0 < plan.radius <= LONGEST_RADIUS:
        raise FieldRefused(
            "radius", tr("That cannot be a pointer's length; measure it from where it turns to its tip.")
        )
    if not plan.against.strip():
        raise FieldRefused("against", tr("Say what the torques were made with, such as PM-5, or what hung."))
    tool = session.get_one(Tool, tool_id)
    made = BeamScale(tool_id=tool_id, at=act.at, person_id=act.person_id, document=_written(plan))
    session.add(made)
    session.flush()
    note(session, act, tr("made a scale"), tool.number, marks=len(plan.marks), graduations=len(graduations))
    return kept(session, made.id)


@command
def repeat(session: Session, scale_id: int, mark: float, read: float, act: Act) -> KeptScale:
    """Keep a blind repeat, N·m. Raises ShopRefused for two values that cannot be of the same torque."""
    if mark <= 0 or not 0.5 < read / mark < 1.5:
        raise ShopRefused(tr("These two cannot be of the same torque; check the numbers and their units."))
    scale = kept(session, scale_id)
    if mark > scale.plan.scale.highest * (1 + 1e-9):
        raise ShopRefused(tr("The scale does not go so far; pull to one of its marks."))
    session.add(BeamRepeat(beam_scale_id=scale_id, at=act.at, person_id=act.person_id, mark=mark, read=read))
    session.flush()
    note(session, act, tr("repeated a mark blind"), scale.tool, mark=mark, read=read)
    return kept(session, scale_id)


def newest(session: Session, tool_id: int) -> KeptScale | None:
    """The newest scale of a tool; None where none was made."""
    found = session.scalar(select(BeamScale.id).where(BeamScale.tool_id == tool_id).order_by(BeamScale.id.desc()))
    return None if found is None else kept(session, found)


def kept(session: Session, scale_id: int) -> KeptScale:
    """A scale as it was kept."""
    row = session.get_one(BeamScale, scale_id)
    repeats = session.scalars(select(BeamRepeat).where(BeamRepeat.beam_scale_id == scale_id).order_by(BeamRepeat.id))
    return KeptScale(
        scale_id,
        session.get_one(Tool, row.tool_id).number,
        row.at,
        session.get_one(Person, row.person_id).initials,
        _read(row.document),
        tuple(Repeat(r.at, r.mark, r.read) for r in repeats),
    )


def _written(plan: BeamPlan) -> str:
    return json.dumps(
        {
            "marks": [[m.torque, m.deflection] for m in plan.marks],
            "every": plan.every,
            "unit": plan.unit.name,
            "radius": plan.radius,
            "against": " ".join(plan.against.split()),
        },
        ensure_ascii=False,
    )


def _read(text: str) -> BeamPlan:
    raw = json.loads(text)
    marks = tuple(Mark(*m) for m in raw["marks"])
    return BeamPlan(marks, raw["every"], unit_named(raw["unit"], Kind.TORQUE), raw["radius"], raw["against"])


def straightness(scale: Scale) -> str:
    """What the marks tell of how straight the beam bends, in words without a number."""
    if scale.worst_residual is None:
        return tr(
            "Through two marks alone: nothing tells how straight it is between them. Mark a third, or repeat it blind."
        )
    return ""
