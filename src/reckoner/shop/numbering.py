"""What number a signed run's certificate bears: by the scheme that the shop sets, kept with the signature.

A scheme is words with ``{n}`` (a running number within the year, ``{n:4}`` with so many digits at least) or ``{run}``, and
with ``{year}``, ``{month}`` and ``{tool}`` where they are wanted.
"""

from __future__ import annotations

import re
from datetime import date
from typing import TYPE_CHECKING

from reckoner.core.errors import InputRefused

if TYPE_CHECKING:
    from reckoner.shop.runs.state import RunState

_PART = re.compile(r"\{(\w*)(?::(\d))?\}")
KNOWN = ("n", "run", "year", "month", "tool")


def read_scheme(text: str, field: str = "numbering") -> tuple[str, str]:
    """The scheme, and an example of what it makes. Raises InputRefused for one that cannot tell two certificates apart."""
    scheme = " ".join(text.split())
    parts = [found.group(1) for found in _PART.finditer(scheme)]
    for part in parts:
        if part not in KNOWN:
            raise InputRefused(field, text, f"{{{part}}} is none of {', '.join(f'{{{name}}}' for name in KNOWN)}")
    if "{" in _PART.sub("", scheme) or "}" in _PART.sub("", scheme):
        raise InputRefused(field, text, "has a brace that opens nothing; write such as {year}-{n:4}")
    if scheme and not {"n", "run"} & set(parts):
        raise InputRefused(field, text, "needs {n} or {run}, or two certificates would bear the same number")
    return scheme, f"such as {made(scheme, date(2026, 11, 24), 'HC-0417', 133, 42)}"


def made(scheme: str, on: date, tool: str, run_id: int, n: int) -> str:
    """The number that a scheme makes.

    >>> made("HC/{year}/{n:4}", date(2026, 11, 24), "HC-0417", 133, 42)
    'HC/2026/0042'
    """
    values = {"year": f"{on:%Y}", "month": f"{on:%m}", "tool": tool, "run": str(run_id), "n": str(n)}
    return _PART.sub(lambda part: values[part.group(1)].rjust(int(part.group(2) or 0), "0"), scheme)


def number_of(on: date, run_id: int, kept: str = "") -> str:
    """The number that was ``kept`` with a signature; without one the year of it, and the run's own number.

    >>> number_of(date(2026, 11, 24), 133)
    '2026-00133'
    """
    return kept or f"{on:%Y}-{run_id:05d}"


def certificate_number(run: RunState) -> str:
    """The number that a signed run's certificate bears."""
    if run.signature is None:
        return number_of(run.opened.date(), run.id)
    return number_of(run.signature.on, run.id, run.signature.certificate)
