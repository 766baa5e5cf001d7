"""What tools are listed and found by"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.create_table(
        "tool_listing",  # filled from the register when the database is opened next
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("plain_number", sa.String(length=200), nullable=False),
        sa.Column("plain_serial", sa.String(length=200), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("waits", sa.Boolean(), nullable=False),
        sa.Column("due_on", sa.Date(), nullable=True),
        sa.Column("held_back", sa.Boolean(), nullable=False),
        sa.Column("lent", sa.Boolean(), nullable=False),
        sa.Column("back_by", sa.Date(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_listing_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_listing")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_tool_listing_tool_id")),
    )
    op.create_index(op.f("ix_tool_listing_plain_number"), "tool_listing", ["plain_number"])
    op.create_index(op.f("ix_tool_listing_plain_serial"), "tool_listing", ["plain_serial"])
    op.create_index(
        "ix_tool_listing_order", "tool_listing", ["number", "words", "tool_id", "due_on", "held_back", "lent"]
    )
    op.create_index("ix_tool_listing_waits", "tool_listing", ["waits", "due_on", "number", "tool_id"])
    for column in ("held_back", "back_by"):
        op.create_index(f"ix_tool_listing_{column}", "tool_listing", [column, "number", "tool_id"])
