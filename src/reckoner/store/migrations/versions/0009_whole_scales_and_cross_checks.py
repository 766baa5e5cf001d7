"""What a turn of a model's screw changes, cross-checks of references over their range, and the scales of beams"""

import sqlalchemy as sa
from alembic import op

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.add_column("tool_model", sa.Column("adjust_changes", sa.String(length=200), nullable=False, server_default=""))
    op.create_table(
        "cross_run",
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("by", sa.String(length=200), nullable=False),
        sa.Column("against", sa.String(length=200), nullable=False),
        sa.Column("detail", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_run_person_id_person")),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_cross_run_reference_id_reference")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_run")),
    )
    op.create_index(op.f("ix_cross_run_reference_id"), "cross_run", ["reference_id"])
    op.create_table(
        "cross_reading",
        sa.Column("cross_run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        *(sa.Column(name, sa.Double(), nullable=False) for name in ("target", "indicated", "actual", "uncertainty")),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cross_run_id"], ["cross_run.id"], name=op.f("fk_cross_reading_cross_run_id_cross_run")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_reading_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_reading")),
    )
    op.create_index(op.f("ix_cross_reading_cross_run_id"), "cross_reading", ["cross_run_id"])
    op.create_table(
        "cross_strike",
        sa.Column("cross_reading_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cross_reading_id"], ["cross_reading.id"], name=op.f("fk_cross_strike_cross_reading_id_cross_reading")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_strike_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_strike")),
        sa.UniqueConstraint("cross_reading_id", name=op.f("uq_cross_strike_cross_reading_id")),
    )
    with op.batch_alter_table("cross_check") as changed:
        changed.add_column(sa.Column("cross_run_id", sa.Integer(), nullable=True))
        changed.create_foreign_key(op.f("fk_cross_check_cross_run_id_cross_run"), "cross_run", ["cross_run_id"], ["id"])
    op.create_table(
        "beam_scale",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_beam_scale_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_beam_scale_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_beam_scale")),
    )
    op.create_index(op.f("ix_beam_scale_tool_id"), "beam_scale", ["tool_id"])
    op.create_table(
        "beam_repeat",
        sa.Column("beam_scale_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("mark", sa.Double(), nullable=False),
        sa.Column("read", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["beam_scale_id"], ["beam_scale.id"], name=op.f("fk_beam_repeat_beam_scale_id_beam_scale")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_beam_repeat_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_beam_repeat")),
    )
    op.create_index(op.f("ix_beam_repeat_beam_scale_id"), "beam_repeat", ["beam_scale_id"])
