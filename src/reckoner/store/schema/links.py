"""The chain of digests over the records, and what binds a signature to its person's passphrase."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy import ForeignKey, UniqueConstraint
from sqlalchemy.orm import Mapped, mapped_column

from reckoner.store.schema.base import Base, Record, Term
from reckoner.store.terms import LinkKind


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
    from the passphrase, ``salt`` and ``cost``. The newest of a person counts for what is signed next."""

    __tablename__ = "signing_key"
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id"), index=True)
    at: Mapped[datetime]
    salt: Mapped[bytes]
    cost: Mapped[int]
    public: Mapped[bytes]


class Seal(Record, Base):
    """A signature bound to its person's passphrase: ``mark`` is the key's signature over the content of the signed run."""

    __tablename__ = "seal"
    signature_id: Mapped[int] = mapped_column(ForeignKey("signature.id"), unique=True)
    key_id: Mapped[int] = mapped_column(ForeignKey("signing_key.id"))
    mark: Mapped[bytes]
