"""Weights, scales, force gauges, lengths and levels: as lists, added in one line, and what is to be said of each."""

from __future__ import annotations

import string
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.quantities import printing
from reckoner.core.quantities.days import day_words
from reckoner.core.quantities.ownunits import OwnUnits
from reckoner.core.quantities.printing import THIN, percent, quantity
from reckoner.core.quantities.units import DEGREE, KILOGRAM, N_M, Unit
from reckoner.core.reference.weights import STANDARD_GRAVITY
from reckoner.core.translation import tr, tr_count
from reckoner.shop.facts.ownunits import own_units
from reckoner.shop.people.authorship import Act, FieldRefused, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing
from reckoner.shop.register.editing import Command
from reckoner.shop.register.rows import KINDS
from reckoner.shop.register.shelves import ShelfLine
from reckoner.store.reader import Reader
from reckoner.store.schema import Gear
from reckoner.store.terms import RegisterKind
from reckoner.store.times import day_of

GEAR: dict[RegisterKind, tuple[str, str]] = {
    RegisterKind.WEIGHT: (tr("Weights"), tr("a weight")),
    RegisterKind.SCALE: (tr("Scales"), tr("a scale")),
    RegisterKind.FORCE_GAUGE: (tr("Gauges"), tr("a force gauge")),
    RegisterKind.LENGTH: (tr("Rules"), tr("a rule or tape")),
    RegisterKind.LEVEL: (tr("Levels"), tr("a level")),
}
"""Kind → what a shelf of them is called, and one of them: those that tools are compared with."""

ONE_OF = {kind: one for kind, (_, one) in GEAR.items()} | {RegisterKind.ADAPTER: tr("an adapter")}
"""Kind → one of them, of everything that is added by its number alone."""

MISMATCH = 0.03
"""A stamp that is off by more than this is called out."""

_COLUMNS = (
    "id, number, kind, due, box, stamped, weighed, mass_uncertainty, bears, scale_uncertainty, "
    "reaches, force_uncertainty, length_uncertainty, angle_uncertainty, shape, adapter_length, "
    "adapter_rating, adapter_gives"
)


def gear_lines(reader: Reader, kind: RegisterKind) -> tuple[ShelfLine, ...]:
    """Everything of a kind; weights by their box and then by their mass."""
    word = KINDS[kind].table.__mapper_args__["polymorphic_identity"].value
    rows = reader.rows(
        f"SELECT {_COLUMNS} FROM gear WHERE NOT removed AND kind = :kind ORDER BY COALESCE(box, ''), stamped, number",
        kind=word,
    )
    own = own_units(reader)
    return tuple(ShelfLine(r.id, r.number, _detail(kind, r, own)) for r in rows)


def _detail(kind: RegisterKind, row: Any, own: OwnUnits) -> str:

    def said(name: str, words: str, shown: str) -> str:
        return words.format(shown) if getattr(row, name) is not None else ""

    def value(name: str) -> float:
        return float(getattr(row, name) or 0.0)

    match kind:
        case RegisterKind.WEIGHT:
            parts = [
                str(row.box or ""),
                said("stamped", tr("stamped {}"), own.mass_words(value("stamped"))),
                said("weighed", tr("weighed {}"), own.mass_words(value("weighed"))),
                "" if row.weighed is not None else tr("not weighed: not to be believed"),
                mismatch(value("stamped"), value("weighed")),
            ]
        case RegisterKind.SCALE:
            parts = [
                said("bears", tr("up to {}"), own.mass_words(value("bears"))),
                said("scale_uncertainty", "±{}", own.mass_words(value("scale_uncertainty"))),
            ]
        case RegisterKind.FORCE_GAUGE:
            parts = [
                said("reaches", tr("up to {}"), own.force_words(value("reaches"))),
                said("force_uncertainty", "±{}", percent(value("force_uncertainty"), 2)),
            ]
        case RegisterKind.LENGTH:
            parts = [said("length_uncertainty", "±{}", own.length_words(value("length_uncertainty")))]
        case RegisterKind.ADAPTER:
            parts = [
                str(row.shape or ""),
                said("adapter_length", "{}", own.length_words(value("adapter_length"))),
                said("adapter_rating", tr("up to {}"), quantity(value("adapter_rating"), N_M)),
                tr("gives: it passes no set torque on") if row.adapter_gives else "",
            ]
            return " · ".join(p for p in parts if p) or tr("its length is not known")
        case _:
            parts = [said("angle_uncertainty", "±{}", quantity(value("angle_uncertainty"), DEGREE))]
    due = day_of(row.due)
    parts.append(tr("to {due}", due=day_words(due)) if due is not None else "")
    return " · ".join(p for p in parts if p) or tr("its uncertainty is not known")


def mismatch(stamped: float, weighed: float) -> str:
    """What is to be said of a stamp that is far off; empty where it is near, or where one of both is not known.

    >>> mismatch(10.0, 9.6)
    'its stamp is 4.2\u202f% off'
    """
    if stamped <= 0 or weighed <= 0 or abs(stamped / weighed - 1) <= MISMATCH:
        return ""
    return tr("its stamp is {stamped} off", stamped=percent(abs(stamped / weighed - 1), 1))


@dataclass(frozen=True)
class StampedMass:
    """What a weight says it is: a ``value`` in its own ``unit``."""

    value: float
    unit: Unit = KILOGRAM

    @property
    def kilograms(self) -> float:
        return self.unit.to_si(self.value)

    @property
    def words(self) -> str:
        return f"{printing.number(self.value)}{THIN}{self.unit.symbol}"

    @property
    def number(self) -> str:
        """What the weight is called by it: "W-20", "W-25LB"."""
        return f"W-{self.value:g}{'' if self.unit is KILOGRAM else self.unit.name.upper()}"


@command
def add_weights(session: Session, stamps: Sequence[StampedMass], act: Act) -> Command:
    """A box of weights by their stamps; each is called by its stamp. Raises FieldRefused, ShopRefused. Changes: standings,
    the register."""
    if not stamps:
        raise ShopRefused(tr("Press what the weights say they are, one press for each."))
    commands, taken = [], {number for (number,) in session.execute(select(Gear.number))}
    for stamp in stamps:
        name = stamp.number
        number = next(n for n in (name, *(f"{name}{letter}" for letter in string.ascii_uppercase)) if n not in taken)
        taken.add(number)
        row: Gear = KINDS[RegisterKind.WEIGHT].table(number=number, stamped=stamp.kilograms)
        commands.append(editing.add(session, RegisterKind.WEIGHT, row, act, act.at))
    count = tr_count("1 weight", "{n} weights", len(commands))
    return editing.joined(tr("adding {count}", count=count), commands)


@command
def add_scale_on_a_hook(session: Session, kilograms: float, act: Act) -> Command:
    """A hanging scale by how far it goes: it reads kg, as it was set with a mass. Raises FieldRefused, ShopRefused.
    Changes: standings, the register."""
    taken = {number for (number,) in session.execute(select(Gear.number))}
    number = next(n for n in (f"HS-{i}" for i in range(1, 1000)) if n not in taken)
    row: Gear = KINDS[RegisterKind.FORCE_GAUGE].table(
        number=number, reaches=kilograms * STANDARD_GRAVITY, shows_mass=True
    )
    return editing.add(session, RegisterKind.FORCE_GAUGE, row, act, act.at)


@command
def add_gear(session: Session, kind: RegisterKind, number: str, act: Act) -> Command:
    """Add one by its number; what it is worth is said on its sheet. Raises FieldRefused, ShopRefused. Changes: standings,
    the register."""
    number = " ".join(number.split())
    if not number:
        raise FieldRefused("number", tr("Give it a number or a name, such as W-10."))
    row: Gear = KINDS[kind].table(number=number)
    return editing.add(session, kind, row, act, act.at)
