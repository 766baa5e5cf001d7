"""The product's own validation pack: reference requests and results, recomputed here and compared.

The cases stand as TOML files in ``validation_pack``; each names a calculator, its request, the results expected, the
source they come from and the tolerance. To add a case: a table in the file of its idea, with a result that some other
means than this program gave; to add a file: put it there.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from importlib import resources
from typing import Any

from reckoner.core.errors import InputRefused, OurFault
from reckoner.core.translation import tr
from reckoner.formats.calculators import calculate


@dataclass(frozen=True)
class Case:
    """One request and what it must give; ``relative`` or ``absolute`` is the tolerance of every number in it."""

    pack: str
    name: str
    calculator: str
    source: str
    request: dict[str, Any]
    expect: dict[str, Any]
    relative: float | None
    absolute: float | None

    @property
    def tolerance(self) -> str:
        return (
            tr("{relative:g} of it", relative=self.relative) if self.relative is not None else f"{self.absolute or 0:g}"
        )


@dataclass(frozen=True)
class Compared:
    """One result of a case: where it stands in the answer, what was expected and what was found."""

    case: Case
    where: str
    expected: Any
    found: Any
    reproduced: bool


class PackDamaged(OurFault):
    """The shipped pack cannot be read."""


def cases() -> tuple[Case, ...]:
    """All cases, by file. Raises PackDamaged."""
    found = []
    folder = resources.files("reckoner.formats") / "validation_pack"
    for file in sorted(folder.iterdir(), key=lambda f: f.name):
        if not file.name.endswith(".toml"):
            continue
        pack = file.name.removesuffix(".toml")
        try:
            table = tomllib.loads(file.read_text(encoding="utf-8"))
            found += [
                Case(
                    pack,
                    c["name"],
                    c["calculator"],
                    c["source"],
                    c["request"],
                    c["expect"],
                    c.get("relative"),
                    c.get("absolute"),
                )
                for c in table["case"]
            ]
        except (tomllib.TOMLDecodeError, KeyError) as fault:
            raise PackDamaged(f"{file.name}: {fault}") from fault
    return tuple(found)


def run(case: Case) -> Iterator[Compared]:
    """Every result of a case, recomputed and compared. A refusal counts as a result that was not reproduced."""
    try:
        answer: Any = calculate(case.calculator, case.request)
    except InputRefused as refusal:
        answer = str(refusal)
    for where, expected in case.expect.items():
        found = answer if isinstance(answer, str) else _at(answer, where)
        yield Compared(case, where, expected, found, _agrees(expected, found, case))


def _at(answer: Any, where: str) -> Any:
    """The value at a path such as "points[0].deviation_percent"; None where there is none."""
    for step in re.findall(r"[^.\[\]]+", where):
        try:
            answer = answer[int(step) if isinstance(answer, list) else step]
        except (KeyError, IndexError, ValueError, TypeError):
            return None
    return answer


def _agrees(expected: Any, found: Any, case: Case) -> bool:
    if isinstance(expected, bool | str) or isinstance(found, bool | str) or found is None:
        return bool(expected == found)
    room = (case.relative or 0.0) * abs(expected) + (case.absolute or 0.0)
    return bool(abs(found - expected) <= room)
