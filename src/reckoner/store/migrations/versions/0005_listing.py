"""What tools are listed and found by, and indexes for what is asked of where they stand"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"

ASKED = ("due_on", "held", "back_by", "kept")


def upgrade() -> None:
    op.create_table(
        "tool_listing",  # filled from the register when the database is opened next
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("plain_number", sa.String(length=200), nullable=False),
        sa.Column("plain_serial", sa.String(length=200), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_listing_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_listing")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_tool_listing_tool_id")),
    )
    op.create_index(op.f("ix_tool_listing_plain_number"), "tool_listing", ["plain_number"])
    op.create_index(op.f("ix_tool_listing_plain_serial"), "tool_listing", ["plain_serial"])
    op.create_index("ix_tool_listing_order", "tool_listing", ["number", "words", "tool_id"])
    for column in ASKED:
        op.create_index(op.f(f"ix_tool_standing_{column}"), "tool_standing", [column])
