"""A chain of digests over the records, keys that bind signatures, the order of zeros, the day a run is judged by"""

import sqlalchemy as sa
from alembic import op

from reckoner.store import chain

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.add_column("zero_check", sa.Column("observed", sa.Integer(), nullable=True))
    op.add_column("signature", sa.Column("judged_on", sa.Date(), nullable=True))
    op.create_table(
        "chain_link",
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("row_id", sa.Integer(), nullable=False),
        sa.Column("form", sa.Integer(), nullable=False),
        sa.Column("content", sa.String(length=200), nullable=False),
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_chain_link")),
        sa.UniqueConstraint("kind", "row_id", name=op.f("uq_chain_link_kind")),
        sa.UniqueConstraint("place", name=op.f("uq_chain_link_place")),
    )
    op.create_table(
        "signing_key",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("salt", sa.LargeBinary(), nullable=False),
        sa.Column("cost", sa.Integer(), nullable=False),
        sa.Column("public", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_signing_key_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_signing_key")),
    )
    op.create_index(op.f("ix_signing_key_person_id"), "signing_key", ["person_id"])
    op.create_table(
        "seal",
        sa.Column("signature_id", sa.Integer(), nullable=False),
        sa.Column("key_id", sa.Integer(), nullable=False),
        sa.Column("mark", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["key_id"], ["signing_key.id"], name=op.f("fk_seal_key_id_signing_key")),
        sa.ForeignKeyConstraint(["signature_id"], ["signature.id"], name=op.f("fk_seal_signature_id_signature")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_seal")),
        sa.UniqueConstraint("signature_id", name=op.f("uq_seal_signature_id")),
    )
    chain.extend(op.get_bind(), chain.unlinked(op.get_bind(), 1), form=1)  # what these tables hold at this revision
