"""Signatures bound to a passphrase: the record and its check.

A person's passphrase is kept nowhere. It makes a key (Ed25519, RFC 8032, drawn by scrypt, RFC 7914), whose public half is
kept; what is signed with it can be checked by anybody, and made only by who knows the passphrase.
"""

from __future__ import annotations

import math
import os
import unicodedata
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from reckoner.core.errors import RefusedOnRecord, UnreachableError
from reckoner.core.translation import tr
from reckoner.shop.changes import ChangeKind, changed
from reckoner.shop.people.authorship import Act, ShopRefused, note
from reckoner.shop.people.rights import command, refuse_without, require
from reckoner.store import chain
from reckoner.store.reader import Reader
from reckoner.store.schema import PassphraseTry, Person, Run, Seal, Shop, Signature, SigningKey, Tool
from reckoner.store.terms import LinkKind, Right, SealMeaning

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


class PassphraseRefused(ShopRefused):
    """Something is wrong with what was typed as the passphrase of ``person_id``."""

    def __init__(self, sentence: str, person_id: int) -> None:
        super().__init__(sentence)
        self.person_id = person_id


class TooSoon(PassphraseRefused):
    """Wrong passphrases slow the next one down."""


class WrongPassphrase(PassphraseRefused, RefusedOnRecord):
    """It is not the person's; it is kept that it was typed."""

    def __init__(self, sentence: str, person_id: int, act: Act) -> None:
        super().__init__(sentence, person_id)
        self.act = act

    def keep(self, session: object) -> None:
        if isinstance(session, Session):
            _keep_try(session, self.person_id, self.act, was_right=False)


FREE_TRIES = 2
LONGEST_WAIT = 300.0
"""Wrong ones that cost nothing, and the longest that a person waits after more of them, in s."""


def wait_after(session: Session, person_id: int, now: datetime) -> float:
    """How long it is still to wait, in s, before a passphrase of ``person_id`` is tried again: each wrong one since the last
    right one doubles it, over restarts and on every station. A clock that was set back gains nothing."""
    newest_right = select(func.coalesce(func.max(PassphraseTry.id), 0)).where(
        PassphraseTry.person_id == person_id, PassphraseTry.was_right
    )
    wrong = session.scalars(
        select(PassphraseTry.at)
        .where(PassphraseTry.person_id == person_id, PassphraseTry.id > newest_right.scalar_subquery())
        .order_by(PassphraseTry.id)
    ).all()
    if len(wrong) < FREE_TRIES:
        return 0.0
    long = min(LONGEST_WAIT, 2.0 ** (len(wrong) - FREE_TRIES + 1))
    return max(0.0, long - max(0.0, (now - wrong[-1]).total_seconds()))


def _keep_try(session: Session, person_id: int, act: Act, *, was_right: bool) -> None:
    who = session.get_one(Person, person_id).initials
    action = tr("typed the right passphrase, after wrong ones") if was_right else tr("typed a wrong passphrase")
    line = note(session, act, action, who)
    session.flush()
    session.add(PassphraseTry(audit_id=line.id, person_id=person_id, at=act.at, was_right=was_right))


@dataclass(frozen=True)
class Vouching:
    """Someone who stands beside, with the passphrase of who has one."""

    person_id: int
    passphrase: str | None = None


@command
def set_passphrase(
    session: Session,
    person_id: int,
    passphrase: str,
    act: Act,
    *,
    before: str | None = None,
    own: str | None = None,
    beside: Vouching | None = None,
) -> None:
    """What ``person_id`` signs from now on is bound to ``passphrase``. The first is set by that person, or by whoever may
    change the register; another wants the one ``before``, or, where it is forgotten, two other people who may change the
    register: who acts, by the ``own`` passphrase, and one ``beside``. Both are named with the key.

    Raises ShopRefused for one that is too short, or without what it wants. Changes: people.
    Right beside: edit."""
    if len(passphrase.strip()) < SHORTEST:
        raise ShopRefused(
            tr("A passphrase has at least {shortest} characters; several words are good.", shortest=SHORTEST)
        )
    key = key_of(session, person_id)
    if key is None and act.person_id != person_id:
        require(session, act, Right.EDIT)
    elif key is not None and before is not None:
        unlocked(session, key, before, act)
    elif key is not None:
        _vouch(session, person_id, act, own, beside)
    salt = os.urandom(16)
    public = _secret(passphrase, salt, COST).public_key().public_bytes_raw()
    vouched = beside.person_id if key is not None and before is None and beside is not None else None
    session.add(
        SigningKey(
            person_id=person_id, at=act.at, salt=salt, cost=COST, public=public, set_by_id=act.person_id,
            beside_id=vouched,
        )
    )  # fmt: skip
    session.flush()
    changed(session, ChangeKind.PEOPLE, person_id, act.person_id)
    also = session.get_one(Person, vouched).initials if vouched is not None else ""
    note(session, act, tr("set a passphrase"), session.get_one(Person, person_id).initials, beside=also)


def _vouch(session: Session, person_id: int, act: Act, own: str | None, beside: Vouching | None) -> None:
    """Two people other than ``person_id`` who may change the register, each by the passphrase of who has one."""
    if beside is None or len({person_id, act.person_id, beside.person_id}) < 3:
        who = session.get_one(Person, person_id).initials
        raise ShopRefused(
            tr(
                "{who} has a passphrase already: type it. Where it is forgotten, two other people who may change the "
                "register set another, one of them here and one beside; who works alone begins as a person anew.",
                who=who,
            )
        )
    require(session, act, Right.EDIT)
    refuse_without(session.get_one(Person, beside.person_id), Right.EDIT)
    for vouching in (Vouching(act.person_id, own), beside):
        key = key_of(session, vouching.person_id)
        if key is not None:
            unlocked(session, key, vouching.passphrase, act)


def unlocked(session: Session, key: SigningKey, passphrase: str | None, act: Act) -> Ed25519PrivateKey:
    """The secret of a key, by its passphrase. Raises ShopRefused without it, WrongPassphrase for another, TooSoon after
    wrong ones."""
    who = session.get_one(Person, key.person_id).initials
    if not passphrase:
        raise PassphraseRefused(tr("{who} has a passphrase: type it. Nothing was kept.", who=who), key.person_id)
    left = wait_after(session, key.person_id, act.at)
    if left > 0:
        raise TooSoon(
            tr("Wrong ones slow down: wait {left} s, then type it again.", left=math.ceil(left)), key.person_id
        )
    secret = _secret(passphrase, key.salt, key.cost)
    if secret.public_key().public_bytes_raw() != key.public:
        raise WrongPassphrase(
            tr("That is not the passphrase of {who}: nothing was kept; type it again.", who=who), key.person_id, act
        )
    tries = select(PassphraseTry.was_right).where(PassphraseTry.person_id == key.person_id)
    if session.scalars(tries.order_by(PassphraseTry.id.desc()).limit(1)).first() is False:
        _keep_try(session, key.person_id, act, was_right=True)
    return secret


def prove(session: Session, person_id: int, passphrase: str | None, act: Act) -> None:
    """That who acts is that person: by the passphrase of who has one, or of everybody where the shop demands them. Raises
    ShopRefused without it, WrongPassphrase, TooSoon."""
    key = _key_demanded(session, person_id)
    if key is not None:
        unlocked(session, key, passphrase, act)


@command
def sit_down(session: Session, passphrase: str, act: Act) -> None:
    """Who acts sits at the bench from now on, by their passphrase. Raises PassphraseRefused for who has none, as ``unlocked``
    for another one. Changes: nothing but the audit trail."""
    key = key_of(session, act.person_id)
    who = session.get_one(Person, act.person_id).initials
    if key is None:
        raise PassphraseRefused(
            tr("{who} has no passphrase yet: somebody who sits here sets it under Tools, People.", who=who),
            act.person_id,
        )
    unlocked(session, key, passphrase, act)
    note(session, act, tr("sat down"), who)


def _key_demanded(session: Session, person_id: int) -> SigningKey | None:
    key = key_of(session, person_id)
    if key is None and session.scalar(select(Shop.demands_passphrase)):
        who = session.get_one(Person, person_id).initials
        raise ShopRefused(
            tr("This shop signs with passphrases, and {who} has none yet: set it under Tools, People.", who=who)
        )
    return key


def key_of(session: Session, person_id: int) -> SigningKey | None:
    """The key that binds what a person signs next; None for a person without a passphrase."""
    newest = select(SigningKey).where(SigningKey.person_id == person_id).order_by(SigningKey.id.desc()).limit(1)
    return session.scalars(newest).first()


def keyed(reader: Reader, person_id: int) -> bool:
    """Whether a person has a passphrase to sign with."""
    return bool(reader.value("SELECT EXISTS (SELECT 1 FROM signing_key WHERE person_id = :person)", person=person_id))


def seal(session: Session, signature: Signature, given: Mapping[SealMeaning, str | None], act: Act) -> None:
    """Bind a signature, as the last thing that is written of its run: who signed says *tested*, who stood beside *checked*,
    each by the passphrase that was ``given``. Nothing is done for a person without one, unless the shop demands it.

    Raises ShopRefused without a passphrase, or with another.
    """
    people = {SealMeaning.TESTED: signature.person_id, SealMeaning.CHECKED: signature.second_person_id}
    secrets = []
    for meaning, person_id in people.items():
        if person_id is None:
            continue
        key = _key_demanded(session, person_id)
        if key is not None:
            secrets.append((meaning, key, unlocked(session, key, given.get(meaning), act)))
    if not secrets:
        return
    session.flush()
    content = chain.content_of(session.connection(), LinkKind.RUN, signature.run_id)
    if content is None:
        raise UnreachableError(signature.run_id)
    for meaning, key, secret in secrets:
        mark = secret.sign(_sealed(content, meaning))
        session.add(Seal(signature_id=signature.id, meaning=meaning, key_id=key.id, mark=mark))


def _sealed(content: str, meaning: SealMeaning) -> bytes:
    """What a seal is over."""
    return f"{meaning.value}\n{content}".encode()


def check(session: Session) -> Iterator[SealChecked]:
    """Every signature, and every second one, made while its person had a key, against its seal."""
    from cryptography.exceptions import InvalidSignature  # loads slowly
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PublicKey

    links = session.connection()
    first = session.execute(select(SigningKey.person_id, func.min(SigningKey.id)).group_by(SigningKey.person_id)).all()
    keyed = {person: chain.link_of(links, LinkKind.KEY, key) for person, key in first}
    for meaning, whose in (
        (SealMeaning.TESTED, Signature.person_id),
        (SealMeaning.CHECKED, Signature.second_person_id),
    ):
        rows = session.execute(
            select(Signature, Seal, SigningKey, Person, Tool.number)
            .join(Run, Run.id == Signature.run_id)
            .join(Tool, Tool.id == Run.tool_id)
            .join(Person, Person.id == whose)
            .outerjoin(Seal, (Seal.signature_id == Signature.id) & (Seal.meaning == meaning))
            .outerjoin(SigningKey, SigningKey.id == Seal.key_id)
            .where(whose.in_(select(SigningKey.person_id)))
            .order_by(Signature.id)
        )
        for signature, mark, key, person, tool in rows:
            by = person.initials
            signed = chain.link_of(links, LinkKind.RUN, signature.run_id)
            if mark is None:
                since = keyed[person.id]
                if since is None or signed is None or signed.place > since.place:
                    yield SealChecked(signature.run_id, tool, by, sealed=False, fits=False)
                continue
            form = signed.form if signed is not None else chain.NEWEST
            content = chain.content_of(links, LinkKind.RUN, signature.run_id, form) or ""
            try:
                Ed25519PublicKey.from_public_bytes(key.public).verify(mark.mark, _sealed(content, meaning))
                fits = key.person_id == person.id
            except (InvalidSignature, ValueError):
                fits = False
            yield SealChecked(signature.run_id, tool, by, sealed=True, fits=fits)


def _secret(passphrase: str, salt: bytes, cost: int) -> Ed25519PrivateKey:
    from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey  # loads slowly
    from cryptography.hazmat.primitives.kdf.scrypt import Scrypt

    typed = unicodedata.normalize("NFC", passphrase).encode()
    return Ed25519PrivateKey.from_private_bytes(Scrypt(salt=salt, length=32, n=cost, r=8, p=1).derive(typed))
