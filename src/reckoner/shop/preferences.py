"""Choices remembered for this shop, such as a muted sound."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.store.schema import Preference


def recall(session: Session, key: str, otherwise: str = "") -> str:
    """What was remembered under ``key``."""
    found = session.scalar(select(Preference.value).where(Preference.key == key))
    return otherwise if found is None else found


def remember(session: Session, key: str, value: str) -> None:
    """Remember ``value`` under ``key``."""
    row = session.scalar(select(Preference).where(Preference.key == key))
    if row is None:
        session.add(Preference(key=key, value=value))
    else:
        row.value = value
