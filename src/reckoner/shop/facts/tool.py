"""What is known of a tool. Light: lists are made of it while the window opens."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

from reckoner.core.quantities.ownunits import OwnUnits, UnitSystem
from reckoner.core.quantities.printing import span
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.requirements.tooltypes import (
    Approach,
    Direction,
    ErrorKind,
    Mechanism,
    MechanismFacts,
    ToolKind,
    ToolType,
    implied,
)
from reckoner.core.translation import tr
from reckoner.formats.documents import TorqueUnit
from reckoner.shop.facts.limits import stated_limit
from reckoner.shop.facts.ownunits import SAID
from reckoner.shop.facts.shapes import is_described
from reckoner.store.terms import term

if TYPE_CHECKING:
    from reckoner.store.schema import Tool, ToolModel

BOTH = "both"
"""What a model's directions say of a tool that is used both ways."""


@dataclass(frozen=True)
class AdjustmentFacts:
    """How a model is adjusted: ``where`` the screw is, which way ``raises`` the torque (None: nobody has said), what
    ``lock`` holds it, ``rate`` in N·m a turn that way, ``most_turns`` in all, whether the spring is to be relieved
    first."""

    where: str
    raises: Direction | None
    lock: str
    rate: float | None
    most_turns: float | None
    relieve: bool
    changes: ErrorKind | None = None

    @property
    def prior_rate(self) -> float | None:
        """N·m a turn clockwise; signed turns count clockwise."""
        if self.rate is None or self.raises is None:
            return None
        return self.rate if self.raises is Direction.CW else -self.rate


@dataclass(frozen=True)
class SecondScale:
    """A scale beside the one that is used: its unit, and the readable fraction of its graduation in N·m (None: not known)."""

    unit: TorqueUnit
    resolution: float | None


@dataclass(frozen=True)
class ToolFacts:
    """What the bench and the lists need to know of a tool. Lengths in m, mass in kg.

    ``second`` is its other scale; ``made_for_head`` the exchangeable head that its scale is right with, drive centre to seat,
    ``head`` the one that is on it (None: that one); ``corrects_adapter``: it takes an adapter's length into account itself;
    ``main_graduation`` is between two marks of its main scale, N·m; ``measured_in`` is what goes beside its torques: the
    system of its shop, where that says one.
    """

    id: int
    number: str
    serial: str
    maker: str
    model: str
    kind: ToolKind
    mechanism: Mechanism
    unit: TorqueUnit
    drive: str
    directions: tuple[Direction, ...]
    approach: Approach
    place: str
    rule_set: str
    interval_months: int | None
    model_id: int = 0
    cycles_per_year: int = 0
    lever: float | None = None
    pivot: float = 0.0
    own_mass: float | None = None
    own_centre: float | None = None
    adjustment: AdjustmentFacts | None = None
    owner: str = ""
    storage: str = ""
    second: SecondScale | None = None
    made_for_head: float | None = None
    head: float | None = None
    corrects_adapter: bool = False
    main_graduation: float | None = None
    measured_in: UnitSystem = UnitSystem.METRIC

    @property
    def own_units(self) -> OwnUnits:
        """What its lengths, masses, forces and temperatures are typed and told in."""
        return OwnUnits(self.unit, self.measured_in)

    @property
    def pin_unknown(self) -> bool:
        """Whether it trips about a pin, and nobody said where that is: then only a pull at its grip mark is right."""
        return self.mechanism in (Mechanism.CLICK, Mechanism.BREAK_OVER, Mechanism.PRESET) and not self.pivot

    @property
    def putting_away(self) -> str:
        """How it is stored: as its maker says, else as is usual for its mechanism."""
        return self.storage or self.implies.storage

    @property
    def implies(self) -> MechanismFacts:
        return implied(self.mechanism, self.kind.type)

    @property
    def description(self) -> str:
        """Such as "click wrench, ½ in"."""
        body = tr("screwdriver") if self.kind.is_screwdriver else tr("wrench")
        words = f"{tr(self.mechanism)} {body}"
        return f"{words}, {self.drive}" if self.drive else words

    @property
    def model_name(self) -> str:
        """Its model's name; empty where nobody gave it one."""
        return "" if is_described(self.model, self.range_text, self.drive) else self.model

    @property
    def range_text(self) -> str:
        low = self.kind.maximum if self.kind.is_fixed else self.kind.minimum or 0.0
        return span(low, self.kind.maximum, self.unit)


def kind_of(model: ToolModel) -> ToolKind:
    """What a model is to the arithmetic. Raises InputRefused for what no tool can be."""
    return _kind(model)


DEPARTURES = ("resolution", "lever_length", "pivot_offset", "own_mass", "own_centre")
"""Where a tool may be otherwise than its model; its owner's limit counts beside the maker's, the tighter of both."""


def tool_facts(tool: Tool) -> ToolFacts:
    """From the typed model: what its model says, and where the tool departs from it."""
    own = {name: getattr(tool, name) for name in DEPARTURES if getattr(tool, name) is not None}
    own_limit = {"own_tolerance": tool.tolerance, "own_zones": tool.zones, "shop_units": _shop_units(tool)}
    return facts_from(tool, _Departing(tool.model, {**own, **own_limit}))


def _shop_units(tool: Tool) -> str:
    """The system of units that its shop says; empty where it says none. Asked once in a unit of work."""
    from sqlalchemy import select  # a typed tool has it loaded; lists that are read by columns do without
    from sqlalchemy.orm import object_session

    from reckoner.store.schema import Shop

    session = object_session(tool)
    if session is None:
        return ""
    if _SHOP not in session.info:
        session.info[_SHOP] = session.scalar(select(Shop).order_by(Shop.id).limit(1))
    shop = session.info[_SHOP]
    return shop.units if shop is not None else ""


_SHOP = "shop"
"""What a session calls the shop's own row, once it was asked for."""


class _Departing:
    """A model's columns, some of them the tool's own."""

    def __init__(self, model: ToolModel, own: Mapping[str, object]) -> None:
        self._model, self._own = model, own

    def __getattr__(self, name: str) -> Any:
        return self._own[name] if name in self._own else getattr(self._model, name)


MERGED = ", ".join(
    [*(f"COALESCE(t.{name}, m.{name}) AS {name}" for name in DEPARTURES),
     "m.tolerance, m.zones, t.tolerance AS own_tolerance, t.zones AS own_zones",
     f"({SAID}) AS shop_units"]
)  # fmt: skip
"""The same as columns of a tool ``t`` and its model ``m``."""


def facts_from(tool: Any, model: Any) -> ToolFacts:
    """From a tool's row and a row with what its model says and where the tool departs from it, as typed models or as read by
    columns (``MERGED``). Raises TermUnknown, InputRefused."""
    directions, unit = model.directions, unit_named(model.unit, Kind.TORQUE)
    said = _of(model, "shop_units")
    return ToolFacts(
        id=tool.id,
        number=tool.number,
        serial=tool.serial,
        maker=model.maker,
        model=model.name,
        kind=_kind(model),
        mechanism=term(Mechanism, model.mechanism),
        unit=unit,
        drive=model.drive,
        directions=tuple(Direction) if directions == BOTH else (term(Direction, directions),),
        approach=term(Approach, model.approach),
        place=tool.place,
        rule_set=tool.rule_set,
        interval_months=tool.interval_months,
        cycles_per_year=tool.cycles_per_year,
        model_id=tool.model_id,
        lever=model.lever_length,
        pivot=model.pivot_offset,
        own_mass=model.own_mass,
        own_centre=model.own_centre,
        adjustment=_adjustment(model),
        owner=tool.owner,
        storage=model.storage,
        second=_second(model),
        made_for_head=_of(model, "head_length"),
        corrects_adapter=bool(_of(model, "corrects_adapter")),
        main_graduation=_of(model, "main_graduation"),
        measured_in=term(UnitSystem, said) if said else UnitSystem.beside(unit),
    )


def _second(model: Any) -> SecondScale | None:
    """What a row says of a second scale; lists do not ask for it."""
    unit = _of(model, "second_unit")
    return SecondScale(unit_named(unit, Kind.TORQUE), _of(model, "second_resolution")) if unit else None


def _kind(model: Any) -> ToolKind:
    kind = term(ToolType, model.type)
    stated = ((model.tolerance, model.zones), (_of(model, "own_tolerance"), _of(model, "own_zones") or ""))
    limits = tuple(limit for limit in (stated_limit(*columns) for columns in stated) if limit is not None)
    return ToolKind(kind, model.class_, model.maximum, model.minimum, model.resolution, limits)


def _of(model: Any, name: str) -> Any:
    """What a row says of a tool's own; a model alone says nothing."""
    return getattr(model, name, None)


def _adjustment(model: Any) -> AdjustmentFacts | None:
    if not model.adjust_where:
        return None
    return AdjustmentFacts(
        model.adjust_where,
        term(Direction, model.adjust_raises) if model.adjust_raises else None,
        model.adjust_lock,
        model.adjust_rate,
        model.adjust_most_turns,
        bool(model.adjust_relieve),
        ErrorKind(model.adjust_changes) if model.adjust_changes else None,
    )
