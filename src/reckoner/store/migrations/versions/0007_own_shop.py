"""Rights of people, what more is known of models and tools, attachments kept by content"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"

RIGHTS = ("may_sign", "may_second", "may_edit", "may_allow")
DEPARTURES = ("resolution", "tolerance", "lever_length", "pivot_offset", "own_mass", "own_centre")


def upgrade() -> None:
    for right in RIGHTS:
        op.add_column("person", sa.Column(right, sa.Boolean(), nullable=False, server_default=sa.true()))
    op.add_column("person", sa.Column("left_on", sa.Date(), nullable=True))
    op.add_column("tool_model", sa.Column("storage", sa.Text(), nullable=False, server_default=""))
    op.add_column("tool_model", sa.Column("grip_matters", sa.Boolean(), nullable=True))
    op.add_column("tool_model", sa.Column("second_unit", sa.String(length=200), nullable=False, server_default=""))
    op.add_column("tool_model", sa.Column("corrects_adapter", sa.Boolean(), nullable=False, server_default=sa.false()))
    op.add_column("tool_model", sa.Column("head_length", sa.Double(), nullable=True))
    op.add_column("reference", sa.Column("unit", sa.String(length=200), nullable=False, server_default="N.m"))
    op.add_column("tool", sa.Column("owner", sa.String(length=200), nullable=False, server_default=""))
    for name in DEPARTURES:
        op.add_column("tool", sa.Column(name, sa.Double(), nullable=True))
    _attachments()
    _gear()
    op.create_table(
        "shop",
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("demands_passphrase", sa.Boolean(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop")),
    )
    op.create_table(
        "cross_check",
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("against", sa.String(length=200), nullable=False),
        sa.Column("indicated", sa.Double(), nullable=False),
        sa.Column("actual", sa.Double(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_check_person_id_person")),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_cross_check_reference_id_reference")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_check")),
    )
    op.create_index(op.f("ix_cross_check_reference_id"), "cross_check", ["reference_id"])


NUMBERS = (
    "stamped", "weighed", "mass_uncertainty", "bears", "scale_step", "scale_uncertainty", "reaches", "gauge_step",
    "force_uncertainty", "graduation", "length_uncertainty", "angle_uncertainty",
)  # fmt: skip


def _gear() -> None:
    op.create_table(
        "gear",
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("serial", sa.String(length=200), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("box", sa.String(length=200), nullable=True),
        sa.Column("weighed_on", sa.Date(), nullable=True),
        sa.Column("weighed_with", sa.String(length=200), nullable=True),
        sa.Column("shows_mass", sa.Boolean(), nullable=True),
        *(sa.Column(name, sa.Double(), nullable=True) for name in NUMBERS),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_gear")),
        sa.UniqueConstraint("number", name=op.f("uq_gear_number")),
    )


def _attachments() -> None:
    op.create_table(
        "content",
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_content")),
        sa.UniqueConstraint("digest", name=op.f("uq_content_digest")),
    )
    op.create_table(
        "attachment",
        sa.Column("of_kind", sa.String(length=200), nullable=False),
        sa.Column("of_id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("size", sa.Integer(), nullable=False),
        sa.Column("added_on", sa.Date(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_attachment")),
    )
    op.create_index(op.f("ix_attachment_of_id"), "attachment", ["of_id"])
