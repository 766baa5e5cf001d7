"""Who does something and when; every change of the shop leaves a line in the audit trail."""

from __future__ import annotations

import json
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from reckoner.core.errors import Refused
from reckoner.store.schema import Audit
from reckoner.store.schema.base import STATION


class ShopRefused(Refused):
    """The shop's rules do not allow this now; the sentence says why and what to do."""

    def __str__(self) -> str:
        return str(self.args[0])


class FieldRefused(ShopRefused):
    """A value cannot be kept: ``field`` is the name of the one it was given for."""

    def __init__(self, field: str, sentence: str) -> None:
        super().__init__(sentence)
        self.field = field


@dataclass(frozen=True)
class Act:
    """A person's id and an aware time."""

    person_id: int
    at: datetime


def note(session: Session, act: Act, action: str, subject: str, **detail: object) -> Audit:
    """Add a line to the audit trail, in the same unit of work as the change."""
    return note_by(session, act.person_id, act.at, action, subject, **detail)


def note_by(
    session: Session, person_id: int | None, at: datetime, action: str, subject: str, **detail: object
) -> Audit:
    """The same, also for a change that nobody who is registered has made, as a first import."""
    text = json.dumps(detail, ensure_ascii=False, default=str)
    line = Audit(
        at=at,
        person_id=person_id,
        action=action,
        subject=subject,
        detail=text,
        station=session.info.get(STATION, ""),
    )
    session.add(line)
    return line
