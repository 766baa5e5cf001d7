"""Signatures bound to a passphrase: the record and its check.

A person's passphrase is kept nowhere. It makes a key (Ed25519, RFC 8032, drawn by scrypt, RFC 7914), whose public half is
kept; what is signed with it can be checked by anybody, and made only by who knows the passphrase.
"""

from __future__ import annotations

import os
import unicodedata
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.errors import UnreachableError
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import require
from reckoner.store import chain
from reckoner.store.schema import Person, Run, Seal, Shop, Signature, SigningKey, Tool
from reckoner.store.terms import LinkKind, Right

if TYPE_CHECKING:
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey

COST = 2**15
"""scrypt's N (RFC 7914, 2): about a tenth of a second and 32 MB for each try."""

SHORTEST = 10
"""Characters that a passphrase has at least."""


@dataclass(frozen=True)
class SealChecked:
    """A signed run of a person with a key: whether it bears a seal, and whether that fits what is kept of it."""

    run_id: int
    tool: str
    by: str
    sealed: bool
    fits: bool


class WrongPassphrase(ShopRefused):
    """What was typed is not the person's passphrase."""


class PassphraseTries:
    """How long to wait after wrong passphrases: each doubles it, a right one forgets them. Seconds."""

    LONGEST = 60.0

    def __init__(self) -> None:
        self._wrong: dict[int, tuple[int, float]] = {}

    def wait(self, person_id: int, now: float) -> float:
        """How long ``person_id`` has still to wait; 0 when a try is free."""
        count, at = self._wrong.get(person_id, (0, now))
        if count < 2:
            return 0.0
        return max(0.0, at + min(self.LONGEST, 2.0 ** (count - 1)) - now)

    def was_wrong(self, person_id: int, now: float) -> None:
        """One more."""
        count, _ = self._wrong.get(person_id, (0, now))
        self._wrong[person_id] = (count + 1, now)

    def was_right(self, person_id: int) -> None:
        """The wrong ones are forgotten."""
        self._wrong.pop(person_id, None)


def set_passphrase(session: Session, person_id: int, passphrase: str, act: Act) -> None:
    """What ``person_id`` signs from now on is bound to ``passphrase``: set by that person, or by whoever may change the
    register. Raises ShopRefused for one that is too short. Changes: people. Right: edit."""
    if act.person_id != person_id:
        require(session, act, Right.EDIT)
    if len(passphrase.strip()) < SHORTEST:
        raise ShopRefused(
            tr("A passphrase has at least {shortest} characters; several words are good.", shortest=SHORTEST)
        )
    salt = os.urandom(16)
    public = _secret(passphrase, salt, COST).public_key().public_bytes_raw()
    session.add(SigningKey(person_id=person_id, at=act.at, salt=salt, cost=COST, public=public))
    session.flush()
    changed(session, ChangeKind.PEOPLE, person_id, act.person_id)
    note(session, act, tr("set a passphrase"), session.get_one(Person, person_id).initials)


def key_of(session: Session, person_id: int) -> SigningKey | None:
    """The key that binds what a person signs next; None for a person without a passphrase."""
    newest = select(SigningKey).where(SigningKey.person_id == person_id).order_by(SigningKey.id.desc()).limit(1)
    return session.scalars(newest).first()


def has_key(session: Session, person_id: int) -> bool:
    """Whether a person has a passphrase to sign with."""
    return key_of(session, person_id) is not None


def seal(session: Session, signature: Signature, passphrase: str | None) -> None:
    """Bind a signature, as the last thing that is written of its run. Nothing is done for a person without a passphrase,
    unless the shop demands one.

    Raises ShopRefused without the passphrase, or with another.
    """
    key = key_of(session, signature.person_id)
    if key is None and not session.scalar(select(Shop.demands_passphrase)):
        return
    who = session.get_one(Person, signature.person_id).initials
    if key is None:
        raise ShopRefused(
            tr("This shop signs with passphrases, and {who} has none yet: set it under Tools, People.", who=who)
        )
    if passphrase is None:
        raise ShopRefused(tr("{who} signs with a passphrase: type it. Nothing was signed.", who=who))
    secret = _secret(passphrase, key.salt, key.cost)
    if secret.public_key().public_bytes_raw() != key.public:
        raise WrongPassphrase(tr("That is not the passphrase of {who}. Nothing was signed; type it again.", who=who))
    session.flush()
    content = chain.content_of(session.connection(), LinkKind.RUN, signature.run_id)
    if content is None:
        raise UnreachableError(signature.run_id)
    session.add(Seal(signature_id=signature.id, key_id=key.id, mark=secret.sign(content.encode())))


def check(session: Session) -> Iterator[SealChecked]:
    """Every signature made while its person had a key, against its seal."""
    from cryptography.exceptions import InvalidSignature  # loads slowly
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey

    links = session.connection()
    first = session.execute(select(SigningKey.person_id, func.min(SigningKey.id)).group_by(SigningKey.person_id)).all()
    keyed = {person: chain.link_of(links, LinkKind.KEY, key) for person, key in first}
    rows = session.execute(
        select(Signature, Seal, SigningKey, Person.initials, Tool.number)
        .join(Run, Run.id == Signature.run_id)
        .join(Tool, Tool.id == Run.tool_id)
        .join(Person, Person.id == Signature.person_id)
        .outerjoin(Seal, Seal.signature_id == Signature.id)
        .outerjoin(SigningKey, SigningKey.id == Seal.key_id)
        .where(Signature.person_id.in_(select(SigningKey.person_id)))
        .order_by(Signature.id)
    )
    for signature, mark, key, by, tool in rows:
        signed = chain.link_of(links, LinkKind.RUN, signature.run_id)
        if mark is None:
            since = keyed[signature.person_id]
            if since is None or signed is None or signed.place > since.place:
                yield SealChecked(signature.run_id, tool, by, sealed=False, fits=False)
            continue
        form = signed.form if signed is not None else chain.NEWEST
        content = chain.content_of(links, LinkKind.RUN, signature.run_id, form) or ""
        try:
            Ed25519PublicKey.from_public_bytes(key.public).verify(mark.mark, content.encode())
            fits = key.person_id == signature.person_id
        except (InvalidSignature, ValueError):
            fits = False
        yield SealChecked(signature.run_id, tool, by, sealed=True, fits=fits)


def _secret(passphrase: str, salt: bytes, cost: int) -> Ed25519PrivateKey:
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey  # loads slowly
    from cryptography.hazmat.primitives.kdf.scrypt import Scrypt

    typed = unicodedata.normalize("NFC", passphrase).encode()
    return Ed25519PrivateKey.from_private_bytes(Scrypt(salt=salt, length=32, n=cost, r=8, p=1).derive(typed))
