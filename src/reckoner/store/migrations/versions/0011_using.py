"""At which station something was done, and traces that go to an archive"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.add_column("audit", sa.Column("station", sa.String(length=200), nullable=False, server_default=""))
    op.add_column("trace", sa.Column("archived", sa.String(length=200), nullable=False, server_default=""))
    op.create_index(op.f("ix_trace_archived"), "trace", ["archived"])
    op.add_column("shop", sa.Column("trace_years", sa.Integer(), nullable=True))
