"""What number a signed run's certificate bears: by the scheme that the shop sets, given once.

A scheme is words with ``{n}`` (a running number within the year, ``{n:4}`` with so many digits at least) or ``{run}``, and
with ``{year}``, ``{month}`` and ``{tool}`` where they are wanted.
"""

from __future__ import annotations

import re
from datetime import date
from itertools import count
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.store.schema import CertificateNumber, Shop, Signature

if TYPE_CHECKING:
    from reckoner.shop.runs.state import RunState

_PART = re.compile(r"\{(\w*)(?::(\d))?\}")
USUAL = "{year}-{run:5}"
"""The scheme of a shop that has none of its own."""

KNOWN = ("n", "run", "year", "month", "tool")


def read_scheme(text: str, field: str = "numbering") -> tuple[str, str]:
    """The scheme, and an example of what it makes. Raises InputRefused for one that cannot tell two certificates apart."""
    scheme = " ".join(text.split())
    parts = [found.group(1) for found in _PART.finditer(scheme)]
    for part in parts:
        if part not in KNOWN:
            raise InputRefused(
                field,
                text,
                tr("{{{part}}} is none of {list}", part=part, list=", ".join(f"{{{name}}}" for name in KNOWN)),
            )
    if "{" in _PART.sub("", scheme) or "}" in _PART.sub("", scheme):
        raise InputRefused(field, text, tr("has a brace that opens nothing; write such as {year}-{n:4}"))
    if scheme and not {"n", "run"} & set(parts):
        raise InputRefused(field, text, tr("needs {n} or {run}, or two certificates would bear the same number"))
    return scheme, tr("such as {made}", made=made(scheme, date(2026, 11, 24), "HC-0417", 133, 42))


def made(scheme: str, on: date, tool: str, run_id: int, n: int) -> str:
    """The number that a scheme makes.

    >>> made("HC/{year}/{n:4}", date(2026, 11, 24), "HC-0417", 133, 42)
    'HC/2026/0042'
    """
    values = {"year": f"{on:%Y}", "month": f"{on:%m}", "tool": tool, "run": str(run_id), "n": str(n)}
    return _PART.sub(lambda part: values[part.group(1)].rjust(int(part.group(2) or 0), "0"), scheme)


def certificate_number(run: RunState) -> str:
    """The number that a signed run's certificate bears; of a run that has none, the run's own."""
    given = run.signature.certificate if run.signature is not None else ""
    return given or own_number(run.id)


def own_number(run_id: int) -> str:
    """What a run is called that has no certificate."""
    return tr("run {run_id}", run_id=run_id)


def give_number(session: Session, signature: Signature, on: date, tool: str) -> str:
    """Give a signature that judged its tool ``on`` a day at the place the next number, in the transaction that signs it.

    The running number begins anew with the year where the scheme names the year. A number that was given before, by another
    scheme, is not given again: the next one is, or, where the scheme does not count, the same with ``-2``, ``-3``, … after
    it.
    """
    scheme = session.scalar(select(Shop.numbering).order_by(Shop.id).limit(1)) or USUAL
    of_year = select(func.max(CertificateNumber.n))
    n = session.scalar(of_year.where(CertificateNumber.year == on.year) if "{year}" in scheme else of_year) or 0
    counts = "{n" in scheme
    for more in count(1):
        number = made(scheme, on, tool, signature.run_id, n + more)
        if more > 1 and not counts:
            number = f"{number}-{more}"
        if session.scalar(select(CertificateNumber.id).where(CertificateNumber.number == number)) is None:
            break
    counted = n + more if counts else None
    session.add(CertificateNumber(signature_id=signature.id, year=on.year, n=counted, number=number))
    return number
