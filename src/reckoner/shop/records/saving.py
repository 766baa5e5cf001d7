"""What left the shop as a file, told in the audit trail."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.shop.people.authorship import Act, note
from reckoner.shop.people.rights import command


@command
def note_saved(session: Session, path: Path, act: Act) -> None:
    """Somebody saved a file at ``path``. Changes: nothing but the audit trail."""
    note(session, act, tr("saved a file"), path.name, folder=str(path.parent))
