"""Files that belong to a row of the register: a photo, a certificate. Each is kept by its content, once."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from datetime import date
from pathlib import Path

from sqlalchemy import select
from sqlalchemy.orm import Session

from reckoner.core.translation import tr
from reckoner.formats.attachedfile import LARGEST, is_picture
from reckoner.shop.people.authorship import Act, ShopRefused
from reckoner.shop.people.rights import command
from reckoner.shop.register import editing
from reckoner.shop.register.editing import Command
from reckoner.store.schema import Attachment, Content, Shop
from reckoner.store.terms import RegisterKind


@dataclass(frozen=True)
class AttachmentLine:
    """One file: its id, name, size in bytes, and since when it is here."""

    id: int
    name: str
    size: int
    on: date


@command
def attach(session: Session, kind: RegisterKind, row_id: int, name: str, data: bytes, act: Act) -> Command:
    """Keep a file with a row. Raises ShopRefused for an empty one, or one that is too large or there already. Changes:
    standings, the register."""
    name = Path(name).name.strip()
    if not name:
        raise ShopRefused(tr("The file has no name."))
    if not data:
        raise ShopRefused(tr("{name} is empty; nothing was kept.", name=name))
    if len(data) > LARGEST:
        raise ShopRefused(
            tr(
                "{name} is larger than {largest} MB; make it smaller, or keep it elsewhere.",
                name=name,
                largest=LARGEST // 1000000,
            )
        )
    if is_printed(kind, name) and not is_picture(data):
        raise ShopRefused(
            tr("{name} is no picture that can be printed; take a PNG or a JPEG. Nothing was kept.", name=name)
        )
    digest = hashlib.sha256(data).hexdigest()
    there = session.scalars(
        select(Attachment).where(
            Attachment.of_kind == kind, Attachment.of_id == row_id, Attachment.digest == digest,
            Attachment.removed.is_(False),
        )
    ).first()  # fmt: skip
    if there is not None:
        raise ShopRefused(tr("That file is here already, as {name}.", name=there.name))
    if session.scalar(select(Content.id).where(Content.digest == digest)) is None:
        session.add(Content(digest=digest, data=data))
    row = Attachment(of_kind=kind, of_id=row_id, name=name, digest=digest, size=len(data), added_on=act.at.date())
    return editing.add(session, RegisterKind.ATTACHMENT, row, act, act.at)


def is_printed(kind: RegisterKind, name: str) -> bool:
    """Whether a file is what stands at the head of the shop's papers: one of the shop that is called logo."""
    return kind is RegisterKind.SHOP and Path(name).stem.strip().lower() == "logo"


def logo(session: Session) -> bytes:
    """The newest picture called logo among the shop's files; empty without one. Raises ShopRefused for a damaged one."""
    shop = session.scalar(select(Shop.id).order_by(Shop.id).limit(1))
    lines = attachments(session, RegisterKind.SHOP, shop) if shop is not None else ()
    newest = next((line.id for line in reversed(lines) if is_printed(RegisterKind.SHOP, line.name)), None)
    return content(session, newest)[1] if newest is not None else b""


def attachments(session: Session, kind: RegisterKind, row_id: int) -> tuple[AttachmentLine, ...]:
    """The files of a row, oldest first."""
    rows = session.scalars(
        select(Attachment)
        .where(Attachment.of_kind == kind, Attachment.of_id == row_id, Attachment.removed.is_(False))
        .order_by(Attachment.id)
    )
    return tuple(AttachmentLine(a.id, a.name, a.size, a.added_on) for a in rows)


def content(session: Session, attachment_id: int) -> tuple[str, bytes]:
    """A file's name and what it holds. Raises ShopRefused when it is not what was kept."""
    row = session.get_one(Attachment, attachment_id)
    data = session.scalar(select(Content.data).where(Content.digest == row.digest))
    if data is None or hashlib.sha256(data).hexdigest() != row.digest:
        raise ShopRefused(
            tr("{name} is not what was kept here; it was changed or lost. Put back the last backup.", name=row.name)
        )
    return row.name, data


@command
def detach(session: Session, attachment_id: int, act: Act) -> Command:
    """Take a file out of sight. Raises ShopRefused. Changes: the register."""
    return editing.remove(session, RegisterKind.ATTACHMENT, attachment_id, act)
