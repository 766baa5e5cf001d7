"""Adjusting, as left, kinds of runs, characterisation, amendments, preferences"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"

TEXT = {"tool_model": ("adjust_where", "adjust_lock"), "run": ("adapter", "plan_note"), "trace": ("faults",)}
TEXT["signature"] = ("note",)
WORDS = {
    "tool_model": ("adjust_raises",),
    "run": ("rule", "mode"),
    "room_reading": ("source",),
    "series": ("place",),
    "signature": ("outcome",),
}
NUMBERS = {
    "tool_model": ("adjust_rate", "adjust_most_turns"),
    "tool_event": ("low", "high"),
    "series": ("turn",),
    "trace": ("over_travel", "time_80_to_100"),
}
LINKS = {
    "run": (("amends_id", "run", True), ("event_id", "tool_event", False)),
    "zero_check": (("series_id", "series", True),),
    "signature": (("second_person_id", "person", False),),
}


def upgrade() -> None:
    for table in sorted({*TEXT, *WORDS, *NUMBERS, *LINKS}):
        with op.batch_alter_table(table) as batch:
            for name in TEXT.get(table, ()):
                batch.add_column(sa.Column(name, sa.Text(), nullable=False, server_default=""))
            for name in WORDS.get(table, ()):
                default = "typed" if name == "source" else ""
                batch.add_column(sa.Column(name, sa.String(length=200), nullable=False, server_default=default))
            for name in NUMBERS.get(table, ()):
                batch.add_column(sa.Column(name, sa.Double(), nullable=True))
            if table == "tool_model":
                batch.add_column(sa.Column("adjust_relieve", sa.Boolean(), nullable=False, server_default=sa.false()))
            for name, other, indexed in LINKS.get(table, ()):
                batch.add_column(sa.Column(name, sa.Integer(), nullable=True))
                batch.create_foreign_key(op.f(f"fk_{table}_{name}_{other}"), other, [name], ["id"])
                if indexed:
                    batch.create_index(op.f(f"ix_{table}_{name}"), [name])
    op.create_table(
        "adjustment",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("begun", sa.Boolean(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_adjustment_run_id_run")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_adjustment_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_adjustment")),
    )
    op.create_index(op.f("ix_adjustment_run_id"), "adjustment", ["run_id"])
    op.create_table(
        "characterisation",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("tool_id", sa.Integer(), nullable=True),
        sa.Column("model_id", sa.Integer(), nullable=True),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("reproducibility", sa.Double(), nullable=True),
        sa.Column("output_drive", sa.Double(), nullable=True),
        sa.Column("interface", sa.Double(), nullable=True),
        sa.Column("loading_point", sa.Double(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_characterisation_run_id_run")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_characterisation_tool_id_tool")),
        sa.ForeignKeyConstraint(["model_id"], ["tool_model.id"], name=op.f("fk_characterisation_model_id_tool_model")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_characterisation")),
    )
    for name in ("run_id", "tool_id", "model_id"):
        op.create_index(op.f(f"ix_characterisation_{name}"), "characterisation", [name])
    op.create_table(
        "preference",
        sa.Column("key", sa.String(length=200), nullable=False),
        sa.Column("value", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_preference")),
        sa.UniqueConstraint("key", name=op.f("uq_preference_key")),
    )
