"""What a comparison holds against each other, the graduation of a second scale, and the numbers of certificates"""

import sqlalchemy as sa
from alembic import op

revision = "0010"
down_revision = "0009"


def upgrade() -> None:
    op.add_column("shop", sa.Column("numbering", sa.String(length=200), nullable=False, server_default=""))
    op.add_column("shop", sa.Column("label_sizes", sa.Text(), nullable=False, server_default=""))
    op.add_column("signature", sa.Column("certificate", sa.String(length=200), nullable=False, server_default=""))
    op.create_index(op.f("ix_signature_at"), "signature", ["at"])
    op.add_column("tool_model", sa.Column("second_resolution", sa.Double(), nullable=True))
    op.create_table(
        "run_sides",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_run_sides_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run_sides")),
        sa.UniqueConstraint("run_id", name=op.f("uq_run_sides_run_id")),
    )
