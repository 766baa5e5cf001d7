"""The chain of digests over the records, and what binds a signature to its person's passphrase."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.terms import LinkKind, SealMeaning


class ChainLink(Record, Base):
    """One link: ``place`` counts from 1, ``row_id`` names the record of its ``kind``, ``content`` is the SHA-256 of that
    record written in ``form``, and ``digest`` that of this link and the one before it (``store.chain``)."""

    __tablename__ = "chain_link"
    __table_args__ = (UniqueConstraint("kind", "row_id"),)
    place: Mapped[int] = mapped_column(unique=True)
    kind: Mapped[LinkKind] = mapped_column(Term(LinkKind))
    row_id: Mapped[int]
    form: Mapped[int]
    content: Mapped[str]
    digest: Mapped[str]


class SigningKey(Record, Base):
    """A person's key, made from a passphrase that is kept nowhere: Ed25519 (RFC 8032), its secret drawn by scrypt (RFC 7914)
    from the passphrase, ``salt`` and ``cost``. The newest of a person counts for what is signed next. ``set_by_id`` set it;
    ``beside_id`` vouched beside, where the passphrase before was not given (None: it was, or there was none)."""

    __tablename__ = "signing_key"
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    at: Mapped[datetime]
    salt: Mapped[bytes]
    cost: Mapped[int]
    public: Mapped[bytes]
    set_by_id: Mapped[int] = mapped_column(ForeignKey("person.id"))
    beside_id: Mapped[int | None] = mapped_column(ForeignKey("person.id"))


class PassphraseTry(Record, Base):
    """A passphrase that was typed for a person, ``was_right`` or wrong; a right one only where wrong ones came before it. Its
    line of the audit trail says so."""

    __tablename__ = "passphrase_try"
    audit_id: Mapped[int] = mapped_column(ForeignKey("audit.id"), unique=True)
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    at: Mapped[datetime]
    was_right: Mapped[bool]


class Seal(Record, Base):
    """A signature bound to the passphrase of who signed, or of who stood beside: ``mark`` is the key's signature over the
    content of the signed run and the ``meaning``."""

    __tablename__ = "seal"
    __table_args__ = (UniqueConstraint("signature_id", "meaning"),)
    signature_id: Mapped[int] = mapped_column(ForeignKey("signature.id"), index=True)
    meaning: Mapped[SealMeaning] = mapped_column(Term(SealMeaning))
    key_id: Mapped[int] = mapped_column(ForeignKey("signing_key.id"))
    mark: Mapped[bytes]
