"""What a person changed in the register today and has not taken back, as it is found after the window was closed."""

from __future__ import annotations

from itertools import groupby

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act
from reckoner.shop.register import rows
from reckoner.shop.register.editing import Command, EditStep, change_words, row_sheet
from reckoner.store.schema import RegisterVersion
from reckoner.store.schema.base import unfolded


def commands_of(session: Session, act: Act) -> tuple[Command, ...]:
    """What the person of ``act`` did on its day up to then, the newest last; what was taken back is left out, with what took
    it back."""
    begins = act.at.replace(hour=0, minute=0, second=0, microsecond=0)
    made = session.scalars(
        select(RegisterVersion)
        .where(RegisterVersion.person_id == act.person_id, RegisterVersion.at >= begins)
        .order_by(RegisterVersion.id)
    )
    stands: list[RegisterVersion] = []
    for version in made:
        before = next((v for v in reversed(stands) if (v.kind, v.row_id) == (version.kind, version.row_id)), None)
        if before is not None and _takes_back(version, before):
            stands.remove(before)
        else:
            stands.append(version)
    return tuple(_command(session, list(together)) for _at, together in groupby(stands, key=lambda v: v.at))


def _takes_back(version: RegisterVersion, before: RegisterVersion) -> bool:
    after, was = unfolded(version.after), unfolded(version.before)
    if before.version == 1:
        return bool(after == {"removed": True})
    return bool(after == unfolded(before.before) and was == unfolded(before.after))


def _command(session: Session, versions: list[RegisterVersion]) -> Command:
    """What was written in one moment is one command."""
    first = versions[0]
    sheet = row_sheet(session, first.kind, first.row_id)
    facts = next(v for v in rows.versions(session, first.kind, first.row_id) if v.version == first.version)
    words = tr("{name}: {what}", name=sheet.name, what=change_words(first.kind, facts, sheet.own))
    if len(versions) > 1:
        words = tr("{words}, and {count} more", words=words, count=len(versions) - 1)
    return Command(words, tuple(EditStep(v.kind, v.row_id, v.version) for v in versions))
