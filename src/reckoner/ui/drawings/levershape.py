"""What a lever drawing shows, and where each of its parts stands on a surface of a size: no painting, no events."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import Enum

from PyQt6.QtCore import QPointF, QSizeF

from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.ui.tokens import GRID


class LeverPart(Enum):
    """What can be moved: along the lever, or round by an angle."""

    HOOK = "hook"
    BALANCE = "balance point"
    HAND = "hand"
    TILT = "tilt"
    ADAPTER = "adapter"

    @property
    def turns(self) -> bool:
        """Whether it is moved by an angle."""
        return self in (LeverPart.TILT, LeverPart.ADAPTER)


@dataclass(frozen=True)
class AdapterShown:
    """An adapter: its ``length`` in m between the centres and its angle in rad, 0 in line with the handle and away from it,
    π/2 square, π folded back. ``words`` say what it is."""

    length: float
    angle_rad: float = 0.0
    words: str = ""


@dataclass(frozen=True)
class LeverState:
    """Lengths from the drive's centre: the ``grip`` mark, the ``pivot`` (0: none), the ``hook`` (None: nothing hangs), the
    tool's own ``balance`` point (None: not known), where the ``hand`` pulls (None: no hand). ``tilt_rad`` is how far the
    handle hangs below level, None where that is not asked. ``weights`` are the words on what hangs, the topmost first, each
    with its mass in kg; ``own`` the words at the balance point; ``adapters`` follow each other from the drive on; between the
    angles of the ``square`` window (rad) the first one may stand. On a ``disc`` of the radius ``grip`` the weights hang from
    the rim. ``units`` are what the dimension lines are told in."""

    grip: float = 0.4
    pivot: float = 0.0
    hook: float | None = None
    balance: float | None = None
    weights: tuple[tuple[str, float], ...] = ()
    own: str = ""
    torque: str = ""
    hand: float | None = None
    tilt_rad: float | None = None
    adapters: tuple[AdapterShown, ...] = ()
    square: tuple[float, float] | None = None
    disc: bool = False
    units: OwnUnits = METRIC

    @property
    def parts(self) -> tuple[tuple[LeverPart, int], ...]:
        """What there is to move, an adapter with its place among them."""
        there = (
            (LeverPart.HOOK, self.hook is not None and not self.disc),
            (LeverPart.BALANCE, self.balance is not None),
            (LeverPart.HAND, self.hand is not None),
            (LeverPart.TILT, self.tilt_rad is not None),
        )
        return (
            *((part, 0) for part, is_there in there if is_there),
            *((LeverPart.ADAPTER, i) for i in range(len(self.adapters))),
        )

    def value(self, part: LeverPart, index: int = 0) -> float | None:
        """Where a part stands: m, or rad for one that turns; None where there is none."""
        if part is LeverPart.ADAPTER:
            return self.adapters[index].angle_rad if index < len(self.adapters) else None
        return {
            LeverPart.HOOK: self.hook,
            LeverPart.BALANCE: self.balance,
            LeverPart.HAND: self.hand,
            LeverPart.TILT: self.tilt_rad,
        }[part]

    @property
    def chain(self) -> tuple[tuple[float, float], ...]:
        """The ends of the adapters in m from the drive: away from the handle, and up."""
        found, x, y = [], 0.0, 0.0
        for adapter in self.adapters:
            x += adapter.length * math.cos(adapter.angle_rad)
            y += adapter.length * math.sin(adapter.angle_rad)
            found.append((x, y))
        return tuple(found)


BEYOND = 1.1
"""Of the lever: where the handle ends."""

LEFT, RIGHT, TOP = 9.0 * GRID, 5.0 * GRID, 9.5 * GRID
"""Room beside the drawing for the vice, for the handle's end, and above it for the dimension lines."""

DISC = 6.0 * GRID
"""The radius of a disc as it is drawn."""

UPWARDS = 8.0 * GRID
"""Room above the drive for adapters that stand up from it."""


@dataclass(frozen=True)
class Geometry:
    """Where a state's parts stand on a surface of ``size``, in pixels."""

    state: LeverState
    size: QSizeF

    @property
    def scale(self) -> float:
        """Pixels a metre: true to scale, as large as finds room."""
        if self.state.disc:
            return DISC / self.state.grip
        away = max((x for x, _ in self.state.chain), default=0.0)
        up = max((abs(y) for _, y in self.state.chain), default=0.0)
        wide = (self.size.width() - LEFT - RIGHT) / (self.state.grip * BEYOND + max(0.0, away))
        return max(1.0, min(wide, UPWARDS / up) if up > 1e-9 else wide)

    @property
    def drive(self) -> QPointF:
        """The centre of the drive."""
        if self.state.disc:
            return QPointF(self.size.width() / 2, TOP)
        away = max((x for x, _ in self.state.chain), default=0.0)
        up = UPWARDS if any(y > 1e-9 for _, y in self.state.chain) else 0.0
        return QPointF(LEFT + max(0.0, away) * self.scale, TOP + up)

    def along(self, metres: float) -> QPointF:
        """A point of the handle's axis."""
        tilt, at = self.state.tilt_rad or 0.0, self.drive
        return QPointF(at.x() + metres * self.scale * math.cos(tilt), at.y() + metres * self.scale * math.sin(tilt))

    def joints(self) -> tuple[QPointF, ...]:
        """The drive, and the end of each adapter after it; the last is the fastener's centre."""
        at = self.drive
        return (at, *(QPointF(at.x() - x * self.scale, at.y() - y * self.scale) for x, y in self.state.chain))

    def metres(self, x: float) -> float:
        """Where on the handle's axis an x stands."""
        return (x - self.drive.x()) / (self.scale * math.cos(self.state.tilt_rad or 0.0))

    def tilt_to(self, at: QPointF) -> float:
        """The tilt in rad of a handle that points to a place."""
        return math.atan2(at.y() - self.drive.y(), max(1.0, at.x() - self.drive.x()))

    def angle_to(self, at: QPointF, index: int) -> float:
        """The angle in rad, from −π to π, of an adapter that points to a place."""
        joint = self.joints()[index]
        return math.atan2(joint.y() - at.y(), joint.x() - at.x())

    def place_of(self, part: LeverPart, index: int = 0) -> QPointF | None:
        """Where a part is taken hold of; None where there is none."""
        value = self.state.value(part, index)
        if value is None:
            return None
        if part is LeverPart.ADAPTER:
            return self.joints()[index + 1]
        return self.along(self.state.grip * BEYOND if part is LeverPart.TILT else value)
