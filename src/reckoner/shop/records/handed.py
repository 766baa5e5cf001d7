"""A file that another shop, or a spreadsheet, handed on: read by what it is, and taken in."""

from __future__ import annotations

from pathlib import Path
from typing import TypeAlias

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.formats.exchange import ExchangeFile, load
from reckoner.formats.fields import FileRefused
from reckoner.formats.tables import Table, read_table
from reckoner.shop.acts import Act
from reckoner.shop.records.taking_over import TakenOver, take_over
from reckoner.shop.records.taking_tables import is_loans, is_results, take_loans, take_results

Handed: TypeAlias = ExchangeFile | Table


def read_handed(path: Path) -> Handed:
    """The exchange file or the table that stands in a file; no database is needed. Raises FileRefused."""
    if path.suffix.lower() == ".json":
        return load(path)
    table = read_table(path)
    if is_loans(table) or is_results(table):
        return table
    raise FileRefused(
        path.name,
        (tr("it is no table of loans (tool, to, from) and none of results (tool, torque, deviation %, W %)"),),
    )


def take_handed(session: Session, handed: Handed, name: str, act: Act) -> TakenOver:
    """Bring in what ``read_handed`` found in a file of a ``name``. Raises FileRefused, ShopRefused."""
    if isinstance(handed, ExchangeFile):
        return take_over(session, handed, act, name)
    return take_loans(session, handed, act) if is_loans(handed) else take_results(session, handed, act)
