"""Rule sets: the tolerance table, points, readings and habits by which a run is judged.

A rule set is data (``reckoner/formats/rulesets/*.toml`` for those shipped); this module says what its fields mean.
Values of a standard are the published scheme as commonly taught: check them against your own licensed copy.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import StrEnum
from functools import cached_property

from reckoner.core.errors import InputRefused
from reckoner.core.requirements.limits import tightest
from reckoner.core.requirements.tooltypes import ToolKind
from reckoner.core.translation import tr

LIMIT_STEP = 10.0
"""The maximum torque, in N·m, at which the tolerance table of ISO 6789-1:2017, 5.1.5 changes column."""


class Rule(StrEnum):
    """The decision rules (ILAC-G8:09/2019; JCGM 106:2012)."""

    EVERY_READING = "every-reading"
    MEAN = "mean"
    GUARDED = "guarded"
    PROBABILITY = "probability"


class Coverage(StrEnum):
    """Where the coverage factor comes from: fixed at 2, or Student's t at 95.45 % (JCGM 100:2008, G.6.4)."""

    K2 = "k=2"
    STUDENT = "student"


class Adequacy(StrEnum):
    """What makes a reference good enough."""

    QUARTER_OF_LIMIT = "quarter-of-limit"
    FIXED = "fixed"


@dataclass(frozen=True)
class LimitRow:
    """One row of the tolerance table: ``tools`` such as ("II", "A"), limits as fractions."""

    tools: tuple[tuple[str, str], ...]
    up_to_step: float
    above_step: float


@dataclass(frozen=True)
class Decision:
    rule: Rule = Rule.EVERY_READING
    guard_factor: float = 1.0
    level: float = 0.95
    coverage: Coverage = Coverage.K2


@dataclass(frozen=True)
class PullRule:
    """How to pull: from ``start`` (fraction of the target) to the signal in ``shortest`` to ``longest`` seconds."""

    start: float = 0.8
    shortest: float = 0.5
    longest: float = 4.0


@dataclass(frozen=True)
class Room:
    """Permitted room: temperatures and drift in °C, humidity as a fraction."""

    coldest: float = 18.0
    warmest: float = 28.0
    drift: float = 1.0
    humidity: float = 0.9


@dataclass(frozen=True)
class RuleSet:
    """One rule set. ``minimum_point`` True puts the tool's stated minimum first, ``unstated_minimum`` of maximum where
    none is stated; ``fractions`` are further points as fractions of maximum."""

    name: str
    title: str
    source: str
    limits: tuple[LimitRow, ...]
    minimum_point: bool
    fractions: tuple[float, ...]
    unstated_minimum: float = 0.2
    owner_points: bool = False
    readings: int = 5
    readings_by_tool: tuple[tuple[tuple[str, str], int], ...] = ()
    exercise: int = 5
    approach: str = "from below"
    pull: PullRule = field(default_factory=PullRule)
    room: Room = field(default_factory=Room)
    adequacy: Adequacy = Adequacy.QUARTER_OF_LIMIT
    adequate_within: float = 0.25
    least_of_range: float = 0.2
    decision: Decision = field(default_factory=Decision)
    months: int = 12
    cycles: int = 5000
    renews_due_date: bool = True
    second_person: bool = False

    def limit(self, kind: ToolKind, torque: float) -> float:
        """The permissible deviation at a ``torque`` (N·m) as a fraction: the table's, or the tool's own where that is
        tighter.

        Raises InputRefused when the table has no row for the tool. Source: ISO 6789-1:2017, 5.1.5.
        """
        table = self.table_limit(kind)
        return min(table, tightest(kind.limits, torque, kind.maximum)) if kind.limits else table

    def table_limit(self, kind: ToolKind) -> float:
        """What the table says, whatever the tool's maker and owner do. Raises InputRefused when it has no row for the
        tool."""
        row = self._row_of.get(kind.tool)
        if row is None:
            reason = tr(
                "{title} has no limit for Type {type} Class {class_}",
                title=self.title,
                type=kind.type,
                class_=kind.class_,
            )
            raise InputRefused("rule_set", self.name, reason)
        return row.up_to_step if kind.maximum <= LIMIT_STEP else row.above_step

    @cached_property
    def _row_of(self) -> dict[tuple[str, str], LimitRow]:
        """Each tool's first row."""
        return {tool: row for row in reversed(self.limits) for tool in row.tools}

    def points(self, kind: ToolKind) -> tuple[float, ...]:
        """The targets in N·m, rising, each a graduation that the tool can be set to (ISO 6789-1:2017, 6.2.4).

        A fixed tool has its one value. Raises InputRefused where the owner must choose the points.
        """
        if kind.is_fixed:
            return (kind.maximum,)
        if self.owner_points:
            raise InputRefused(
                "points", (), tr("{title} leaves the points to you; choose them in the range used", title=self.title)
            )
        minimum = kind.minimum if kind.minimum is not None else self.unstated_minimum * kind.maximum
        wanted = ((minimum,) if self.minimum_point else ()) + tuple(f * kind.maximum for f in self.fractions)
        return tuple(sorted({kind.nearest_setting(max(w, kind.minimum or 0.0)) for w in wanted}))

    def readings_for(self, kind: ToolKind) -> int:
        """Readings at each point."""
        return dict(self.readings_by_tool).get(kind.tool, self.readings)

    def reference_limit(self, limit: float) -> float:
        """The largest W of a reference that may judge a tool of ``limit``; all fractions."""
        return self.adequate_within * limit if self.adequacy is Adequacy.QUARTER_OF_LIMIT else self.adequate_within
