"""Limits by zones, how intervals are found, cycles that were counted, and what a list is sorted by"""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"

ORDERS = {"due": "due_on", "place": "place", "kind": "kind", "full_scale": "full_scale"}


def upgrade() -> None:
    for table in ("tool_model", "tool"):
        op.add_column(table, sa.Column("zones", sa.Text(), nullable=False, server_default=""))
        op.add_column(table, sa.Column("interval_school", sa.String(length=200), nullable=False, server_default=""))
    op.add_column("tool", sa.Column("cycles_per_lent_day", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("shop", sa.Column("interval_school", sa.String(length=200), nullable=False, server_default="fixed"))
    op.add_column("shop", sa.Column("interval_target", sa.Double(), nullable=False, server_default="0.95"))
    for name in ("latitude", "elevation"):
        op.add_column("shop", sa.Column(name, sa.Double(), nullable=True))
    op.add_column("point_result", sa.Column("limit", sa.Double(), nullable=True))
    op.add_column("signature", sa.Column("due_note", sa.Text(), nullable=False, server_default=""))
    op.add_column("tool_event", sa.Column("cycles", sa.Integer(), nullable=True))
    op.add_column("tool_standing", sa.Column("cycles", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("tool_standing", sa.Column("interval_ends", sa.Date(), nullable=True))
    op.execute("DELETE FROM tool_standing")  # both made anew when the shop is opened
    op.execute("DELETE FROM tool_listing")
    for name in ("place", "kind"):
        op.add_column("tool_listing", sa.Column(name, sa.String(length=200), nullable=False, server_default=""))
    for name in ("smallest", "full_scale"):
        op.add_column("tool_listing", sa.Column(name, sa.Double(), nullable=False, server_default="0"))
    for name, column in ORDERS.items():
        op.create_index(f"ix_tool_listing_{name}", "tool_listing", [column, "number", "tool_id"])
    op.create_table(
        "saved_filter",
        sa.Column("words", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_saved_filter")),
        sa.UniqueConstraint("words", name=op.f("uq_saved_filter_words")),
    )
