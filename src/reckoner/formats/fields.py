"""What the file formats share: quantities as text with a unit, and pydantic's errors as sentences."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, ValidationError

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.entry import read
from reckoner.core.quantities.units import Kind
from reckoner.core.translation import tr

_EXAMPLES = {
    Kind.FORCE: "320 N",
    Kind.ANGLE: tr("5 deg"),
    Kind.ACCELERATION: "9.81 m/s^2",
    Kind.DENSITY: tr("1.2 kg/m^3"),
    Kind.TORQUE: "40 N.m",
    Kind.LENGTH: tr("412 mm"),
    Kind.MASS: tr("1.35 kg"),
    Kind.RATIO: "4 %",
    Kind.TIME: "0.5 s",
}


class StrictModel(BaseModel):
    """A part of a file in which nothing stands that is not known."""

    model_config = ConfigDict(extra="forbid", frozen=True)


def quantity(kind: Kind) -> BeforeValidator:
    """A validator that reads text such as "4 %" as a quantity of ``kind`` in SI; None stays None."""
    return BeforeValidator(lambda value: None if value is None else in_si(value, kind))


def in_si(value: Any, kind: Kind) -> float:
    """The text ``value`` as a quantity of ``kind`` in SI. Raises ValueError with a sentence."""
    if not isinstance(value, str):
        raise ValueError(f'write it as text with its unit, such as "{_EXAMPLES[kind]}"')
    try:
        return read(value, kind).si
    except InputRefused as refusal:
        raise ValueError(refusal.reason) from None


def sentences(fault: ValidationError) -> tuple[str, ...]:
    """One sentence for each mistake: which key, and what is wrong with it."""
    said = []
    for error in fault.errors():
        where = ""
        for part in error["loc"]:
            where += f"[{part}]" if isinstance(part, int) else f"{'.' if where else ''}{part}"
        what = {"missing": "is missing", "extra_forbidden": "is not a known key here; check its spelling"}.get(
            error["type"], error["msg"].removeprefix("Value error, ")
        )
        said.append(tr("{where}: {what}", where=where or tr("the file"), what=what))
    return tuple(said)
