"""First schema: register, references, runs, readings, audit"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "person",
        sa.Column("initials", sa.String(length=200), nullable=False),
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("may_adjust", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
        sa.UniqueConstraint("initials", name=op.f("uq_person_initials")),
    )
    op.create_table(
        "reference",
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("serial", sa.String(length=200), nullable=False),
        sa.Column("maker", sa.String(length=200), nullable=False),
        sa.Column("model", sa.String(length=200), nullable=False),
        sa.Column("minimum", sa.Double(), nullable=False),
        sa.Column("maximum", sa.Double(), nullable=False),
        sa.Column("resolution", sa.Double(), nullable=False),
        sa.Column("zero_tolerance", sa.Double(), nullable=False),
        sa.Column("corrected", sa.Boolean(), nullable=False),
        sa.Column("link", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reference")),
        sa.UniqueConstraint("number", name=op.f("uq_reference_number")),
    )
    op.create_table(
        "tool_model",
        sa.Column("maker", sa.String(length=200), nullable=False),
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("type", sa.String(length=200), nullable=False),
        sa.Column("class", sa.String(length=200), nullable=False),
        sa.Column("mechanism", sa.String(length=200), nullable=False),
        sa.Column("minimum", sa.Double(), nullable=True),
        sa.Column("maximum", sa.Double(), nullable=False),
        sa.Column("resolution", sa.Double(), nullable=False),
        sa.Column("unit", sa.String(length=200), nullable=False),
        sa.Column("drive", sa.String(length=200), nullable=False),
        sa.Column("directions", sa.String(length=200), nullable=False),
        sa.Column("lever_length", sa.Double(), nullable=True),
        sa.Column("pivot_offset", sa.Double(), nullable=False),
        sa.Column("own_mass", sa.Double(), nullable=True),
        sa.Column("own_centre", sa.Double(), nullable=True),
        sa.Column("tolerance", sa.Double(), nullable=True),
        sa.Column("approach", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_model")),
        sa.UniqueConstraint("maker", "name", name=op.f("uq_tool_model_maker")),
    )
    op.create_table(
        "audit",
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("action", sa.String(length=200), nullable=False),
        sa.Column("subject", sa.String(length=200), nullable=False),
        sa.Column("detail", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_audit_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_audit")),
    )
    with op.batch_alter_table("audit", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_audit_at"), ["at"], unique=False)
        batch_op.create_index(batch_op.f("ix_audit_subject"), ["subject"], unique=False)

    op.create_table(
        "certificate",
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("laboratory", sa.String(length=200), nullable=False),
        sa.Column("issued", sa.Date(), nullable=False),
        sa.Column("due", sa.Date(), nullable=False),
        sa.Column("coverage_factor", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_certificate_reference_id_reference")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate")),
    )
    with op.batch_alter_table("certificate", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_certificate_reference_id"), ["reference_id"], unique=False)

    op.create_table(
        "tool",
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("serial", sa.String(length=200), nullable=False),
        sa.Column("model_id", sa.Integer(), nullable=False),
        sa.Column("place", sa.String(length=200), nullable=False),
        sa.Column("rule_set", sa.String(length=200), nullable=False),
        sa.Column("interval_months", sa.Integer(), nullable=True),
        sa.Column("cycles_per_year", sa.Integer(), nullable=False),
        sa.Column("in_service", sa.Date(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["model_id"], ["tool_model.id"], name=op.f("fk_tool_model_id_tool_model")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool")),
        sa.UniqueConstraint("number", name=op.f("uq_tool_number")),
    )
    with op.batch_alter_table("tool", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_tool_model_id"), ["model_id"], unique=False)
        batch_op.create_index(batch_op.f("ix_tool_serial"), ["serial"], unique=False)

    op.create_table(
        "certificate_point",
        sa.Column("certificate_id", sa.Integer(), nullable=False),
        sa.Column("torque", sa.Double(), nullable=False),
        sa.Column("error", sa.Double(), nullable=False),
        sa.Column("expanded_uncertainty", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["certificate_id"],
            ["certificate.id"],
            name=op.f("fk_certificate_point_certificate_id_certificate"),
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate_point")),
    )
    with op.batch_alter_table("certificate_point", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_certificate_point_certificate_id"), ["certificate_id"], unique=False)

    op.create_table(
        "run",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("rule_set", sa.String(length=200), nullable=False),
        sa.Column("rule_set_text", sa.Text(), nullable=False),
        sa.Column("opened_at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_run_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_run_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run")),
    )
    with op.batch_alter_table("run", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_run_tool_id"), ["tool_id"], unique=False)

    op.create_table(
        "tool_event",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("due_back", sa.Date(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_tool_event_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_event_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_event")),
    )
    with op.batch_alter_table("tool_event", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_tool_event_tool_id"), ["tool_id"], unique=False)

    op.create_table(
        "abandonment",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_abandonment_person_id_person")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_abandonment_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_abandonment")),
        sa.UniqueConstraint("run_id", name=op.f("uq_abandonment_run_id")),
    )
    op.create_table(
        "exercise_pull",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("torque", sa.Double(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_exercise_pull_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_exercise_pull")),
    )
    with op.batch_alter_table("exercise_pull", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_exercise_pull_run_id"), ["run_id"], unique=False)

    op.create_table(
        "inspection_line",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("line", sa.String(length=200), nullable=False),
        sa.Column("fine", sa.Boolean(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_inspection_line_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_inspection_line")),
    )
    with op.batch_alter_table("inspection_line", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_inspection_line_run_id"), ["run_id"], unique=False)

    op.create_table(
        "room_reading",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("temperature", sa.Double(), nullable=False),
        sa.Column("humidity", sa.Double(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_room_reading_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_room_reading")),
    )
    with op.batch_alter_table("room_reading", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_room_reading_run_id"), ["run_id"], unique=False)

    op.create_table(
        "series",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("phase", sa.String(length=200), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("wanted", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_series_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_series")),
        sa.UniqueConstraint("run_id", "phase", "position", name=op.f("uq_series_run_id")),
    )
    with op.batch_alter_table("series", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_series_run_id"), ["run_id"], unique=False)

    op.create_table(
        "set_up",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("certificate_id", sa.Integer(), nullable=False),
        sa.Column("mode", sa.String(length=200), nullable=False),
        sa.Column("override", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["certificate_id"], ["certificate.id"], name=op.f("fk_set_up_certificate_id_certificate")
        ),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_set_up_reference_id_reference")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_set_up_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_set_up")),
    )
    with op.batch_alter_table("set_up", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_set_up_run_id"), ["run_id"], unique=False)

    op.create_table(
        "signature",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(length=200), nullable=False),
        sa.Column("accepted", sa.Boolean(), nullable=True),
        sa.Column("sentence", sa.Text(), nullable=False),
        sa.Column("rule", sa.String(length=200), nullable=False),
        sa.Column("limit", sa.Double(), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("due_reason", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_signature_person_id_person")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_signature_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_signature")),
        sa.UniqueConstraint("run_id", name=op.f("uq_signature_run_id")),
    )
    op.create_table(
        "zero_check",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("when", sa.String(length=200), nullable=False),
        sa.Column("torque", sa.Double(), nullable=False),
        sa.Column("allowed", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_zero_check_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_zero_check")),
    )
    with op.batch_alter_table("zero_check", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_zero_check_run_id"), ["run_id"], unique=False)

    op.create_table(
        "point_result",
        sa.Column("signature_id", sa.Integer(), nullable=False),
        sa.Column("series_id", sa.Integer(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("deviation", sa.Double(), nullable=False),
        sa.Column("worst", sa.Double(), nullable=False),
        sa.Column("expanded_uncertainty", sa.Double(), nullable=False),
        sa.Column("reference_error", sa.Double(), nullable=False),
        sa.Column("probability", sa.Double(), nullable=False),
        sa.Column("state", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_point_result_series_id_series")),
        sa.ForeignKeyConstraint(
            ["signature_id"], ["signature.id"], name=op.f("fk_point_result_signature_id_signature")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_point_result")),
    )
    with op.batch_alter_table("point_result", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_point_result_signature_id"), ["signature_id"], unique=False)

    op.create_table(
        "reading",
        sa.Column("series_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("torque", sa.Double(), nullable=False),
        sa.Column("source", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_reading_person_id_person")),
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_reading_series_id_series")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading")),
    )
    with op.batch_alter_table("reading", schema=None) as batch_op:
        batch_op.create_index(batch_op.f("ix_reading_series_id"), ["series_id"], unique=False)

    op.create_table(
        "strike",
        sa.Column("reading_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_strike_person_id_person")),
        sa.ForeignKeyConstraint(["reading_id"], ["reading.id"], name=op.f("fk_strike_reading_id_reading")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_strike")),
        sa.UniqueConstraint("reading_id", name=op.f("uq_strike_reading_id")),
    )
    op.create_table(
        "trace",
        sa.Column("reading_id", sa.Integer(), nullable=False),
        sa.Column("rate", sa.Double(), nullable=False),
        sa.Column("samples", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["reading_id"], ["reading.id"], name=op.f("fk_trace_reading_id_reading")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trace")),
        sa.UniqueConstraint("reading_id", name=op.f("uq_trace_reading_id")),
    )
