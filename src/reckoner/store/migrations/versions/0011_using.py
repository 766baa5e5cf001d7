"""Using what is known: loans with their settings, trips, results from elsewhere, reviews, jobs and adapters; at which station
something was done; traces that go to an archive"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.create_table(
        "job_card",
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("title", sa.String(length=200), nullable=False),
        sa.Column("place", sa.String(length=200), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job_card")),
        sa.UniqueConstraint("number", name=op.f("uq_job_card_number")),
    )
    op.create_table(
        "job_work",
        sa.Column("card_id", sa.Integer(), nullable=True),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("title", sa.String(length=200), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["card_id"], ["job_card.id"], name=op.f("fk_job_work_card_id_job_card")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_job_work_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job_work")),
    )
    op.create_index(op.f("ix_job_work_card_id"), "job_work", ["card_id"], unique=False)
    op.create_table(
        "job_close",
        sa.Column("work_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("done", sa.Boolean(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_job_close_person_id_person")),
        sa.ForeignKeyConstraint(["work_id"], ["job_work.id"], name=op.f("fk_job_close_work_id_job_work")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job_close")),
        sa.UniqueConstraint("work_id", name=op.f("uq_job_close_work_id")),
    )
    op.create_table(
        "job_entry",
        sa.Column("work_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("step", sa.Integer(), nullable=False),
        sa.Column("fastener", sa.Integer(), nullable=False),
        sa.Column("value", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("strikes", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_job_entry_person_id_person")),
        sa.ForeignKeyConstraint(["strikes"], ["job_entry.id"], name=op.f("fk_job_entry_strikes_job_entry")),
        sa.ForeignKeyConstraint(["work_id"], ["job_work.id"], name=op.f("fk_job_entry_work_id_job_work")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job_entry")),
    )
    op.create_index(op.f("ix_job_entry_work_id"), "job_entry", ["work_id"], unique=False)
    op.create_table(
        "outside_result",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("sequence", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("laboratory", sa.String(length=200), nullable=False),
        sa.Column("issued", sa.Date(), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("state", sa.String(length=200), nullable=False),
        sa.Column("coverage_factor", sa.Double(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_outside_result_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_outside_result_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_outside_result")),
    )
    op.create_index(op.f("ix_outside_result_tool_id"), "outside_result", ["tool_id"], unique=False)
    op.create_table(
        "loan_setting",
        sa.Column("event_id", sa.Integer(), nullable=False),
        sa.Column("job", sa.String(length=200), nullable=False),
        sa.Column("joint", sa.String(length=200), nullable=False),
        sa.Column("torque_set", sa.Double(), nullable=False),
        sa.Column("factor", sa.Double(), nullable=False),
        sa.Column("adapter", sa.String(length=200), nullable=False),
        sa.Column("low", sa.Double(), nullable=True),
        sa.Column("high", sa.Double(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["event_id"], ["tool_event.id"], name=op.f("fk_loan_setting_event_id_tool_event")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_loan_setting")),
    )
    op.create_index(op.f("ix_loan_setting_event_id"), "loan_setting", ["event_id"], unique=False)
    op.create_table(
        "outside_point",
        sa.Column("outside_result_id", sa.Integer(), nullable=False),
        sa.Column("as_left", sa.Boolean(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("deviation", sa.Double(), nullable=False),
        sa.Column("expanded_uncertainty", sa.Double(), nullable=False),
        sa.Column("limit", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["outside_result_id"], ["outside_result.id"], name=op.f("fk_outside_point_outside_result_id_outside_result")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_outside_point")),
    )
    op.create_index(op.f("ix_outside_point_outside_result_id"), "outside_point", ["outside_result_id"], unique=False)
    op.create_table(
        "review",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("run_id", sa.Integer(), nullable=True),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_review_person_id_person")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_review_run_id_run")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_review_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_review")),
    )
    op.create_index(op.f("ix_review_tool_id"), "review", ["tool_id"], unique=False)
    op.create_table(
        "trip",
        sa.Column("event_id", sa.Integer(), nullable=False),
        sa.Column("fee", sa.Double(), nullable=True),
        sa.Column("freight", sa.Double(), nullable=True),
        sa.Column("check_run_id", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["check_run_id"], ["run.id"], name=op.f("fk_trip_check_run_id_run")),
        sa.ForeignKeyConstraint(["event_id"], ["tool_event.id"], name=op.f("fk_trip_event_id_tool_event")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trip")),
        sa.UniqueConstraint("event_id", name=op.f("uq_trip_event_id")),
    )
    op.create_table(
        "review_close",
        sa.Column("review_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_review_close_person_id_person")),
        sa.ForeignKeyConstraint(["review_id"], ["review.id"], name=op.f("fk_review_close_review_id_review")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_review_close")),
        sa.UniqueConstraint("review_id", name=op.f("uq_review_close_review_id")),
    )
    op.create_table(
        "review_mark",
        sa.Column("review_id", sa.Integer(), nullable=False),
        sa.Column("line", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_review_mark_person_id_person")),
        sa.ForeignKeyConstraint(["review_id"], ["review.id"], name=op.f("fk_review_mark_review_id_review")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_review_mark")),
    )
    op.create_index(op.f("ix_review_mark_review_id"), "review_mark", ["review_id"], unique=False)
    op.add_column("audit", sa.Column("station", sa.String(length=200), server_default="", nullable=False))
    op.add_column("gear", sa.Column("adapter_length", sa.Double(), nullable=True))
    op.add_column("gear", sa.Column("adapter_rating", sa.Double(), nullable=True))
    op.add_column("gear", sa.Column("shape", sa.String(length=200), nullable=True))
    op.add_column("gear", sa.Column("adapter_gives", sa.Boolean(), nullable=True))
    op.create_index(op.f("ix_point_result_state"), "point_result", ["state"], unique=False)
    op.add_column("shop", sa.Column("language", sa.String(length=200), server_default="en", nullable=False))
    op.add_column("shop", sa.Column("trace_years", sa.Integer(), nullable=True))
    op.add_column("shop", sa.Column("currency", sa.String(length=200), server_default="", nullable=False))
    op.add_column("shop", sa.Column("hour_cost", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("main_graduation", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("fee", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("freight", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("days_away", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("price", sa.Double(), nullable=True))
    op.add_column("tool_model", sa.Column("bench_minutes", sa.Double(), nullable=True))
    op.add_column("tool_standing", sa.Column("corrected_until", sa.Date(), nullable=True))
    op.create_index(op.f("ix_tool_standing_away_until"), "tool_standing", ["away_until"], unique=False)
    op.add_column("trace", sa.Column("archived", sa.String(length=200), server_default="", nullable=False))
    op.create_index(op.f("ix_trace_archived"), "trace", ["archived"], unique=False)
