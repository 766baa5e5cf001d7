"""First schema"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
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
    op.create_index(op.f("ix_attachment_of_id"), "attachment", ["of_id"], unique=False)
    op.create_table(
        "chain_link",
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("row_id", sa.Integer(), nullable=False),
        sa.Column("form", sa.Integer(), nullable=False),
        sa.Column("content", sa.String(length=200), nullable=False),
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_chain_link")),
        sa.UniqueConstraint("kind", "row_id", name=op.f("uq_chain_link_kind")),
        sa.UniqueConstraint("place", name=op.f("uq_chain_link_place")),
    )
    op.create_table(
        "content",
        sa.Column("digest", sa.String(length=200), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_content")),
        sa.UniqueConstraint("digest", name=op.f("uq_content_digest")),
    )
    op.create_table(
        "gear",
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("serial", sa.String(length=200), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("box", sa.String(length=200), nullable=True),
        sa.Column("stamped", sa.Double(), nullable=True),
        sa.Column("weighed", sa.Double(), nullable=True),
        sa.Column("mass_uncertainty", sa.Double(), nullable=True),
        sa.Column("weighed_on", sa.Date(), nullable=True),
        sa.Column("weighed_with", sa.String(length=200), nullable=True),
        sa.Column("bears", sa.Double(), nullable=True),
        sa.Column("scale_step", sa.Double(), nullable=True),
        sa.Column("scale_uncertainty", sa.Double(), nullable=True),
        sa.Column("reaches", sa.Double(), nullable=True),
        sa.Column("gauge_step", sa.Double(), nullable=True),
        sa.Column("force_uncertainty", sa.Double(), nullable=True),
        sa.Column("shows_mass", sa.Boolean(), nullable=True),
        sa.Column("graduation", sa.Double(), nullable=True),
        sa.Column("length_uncertainty", sa.Double(), nullable=True),
        sa.Column("angle_uncertainty", sa.Double(), nullable=True),
        sa.Column("adapter_length", sa.Double(), nullable=True),
        sa.Column("adapter_rating", sa.Double(), nullable=True),
        sa.Column("shape", sa.String(length=200), nullable=True),
        sa.Column("adapter_gives", sa.Boolean(), nullable=True),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_gear")),
        sa.UniqueConstraint("number", name=op.f("uq_gear_number")),
    )
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
        "person",
        sa.Column("initials", sa.String(length=200), nullable=False),
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("may_adjust", sa.Boolean(), nullable=False),
        sa.Column("may_sign", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_second", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_edit", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_allow", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_settle", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_keep", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("may_grant", sa.Boolean(), server_default=sa.text("1"), nullable=False),
        sa.Column("left_on", sa.Date(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
        sa.UniqueConstraint("initials", name=op.f("uq_person_initials")),
    )
    op.create_table(
        "reference",
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("serial", sa.String(length=200), nullable=False),
        sa.Column("maker", sa.String(length=200), nullable=False),
        sa.Column("model", sa.String(length=200), nullable=False),
        sa.Column("minimum", sa.Double(), nullable=False),
        sa.Column("maximum", sa.Double(), nullable=False),
        sa.Column("resolution", sa.Double(), nullable=False),
        sa.Column("zero_tolerance", sa.Double(), nullable=False),
        sa.Column("corrected", sa.Boolean(), nullable=False),
        sa.Column("error_left", sa.Text(), server_default="", nullable=False),
        sa.Column("link", sa.String(length=200), nullable=False),
        sa.Column("unit", sa.String(length=200), server_default="N.m", nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reference")),
        sa.UniqueConstraint("number", name=op.f("uq_reference_number")),
    )
    op.create_table(
        "saved_filter",
        sa.Column("words", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_saved_filter")),
        sa.UniqueConstraint("words", name=op.f("uq_saved_filter_words")),
    )
    op.create_table(
        "shop",
        sa.Column("name", sa.String(length=200), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.Column("units", sa.String(length=200), server_default="", nullable=False),
        sa.Column("numbering", sa.String(length=200), server_default="", nullable=False),
        sa.Column("language", sa.String(length=200), server_default="en", nullable=False),
        sa.Column("label_sizes", sa.Text(), server_default="", nullable=False),
        sa.Column("trace_years", sa.Integer(), nullable=True),
        sa.Column("currency", sa.String(length=200), server_default="", nullable=False),
        sa.Column("hour_cost", sa.Double(), nullable=True),
        sa.Column("demands_passphrase", sa.Boolean(), nullable=False),
        sa.Column("asks_at_sitting", sa.Boolean(), server_default=sa.text("0"), nullable=False),
        sa.Column("lock_minutes", sa.Integer(), nullable=True),
        sa.Column("interval_school", sa.String(length=200), server_default="fixed", nullable=False),
        sa.Column("latitude", sa.Double(), nullable=True),
        sa.Column("elevation", sa.Double(), nullable=True),
        sa.Column("interval_target", sa.Double(), server_default="0.95", nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_shop")),
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
        sa.Column("zones", sa.Text(), server_default="", nullable=False),
        sa.Column("approach", sa.String(length=200), nullable=False),
        sa.Column("adjust_where", sa.Text(), nullable=False),
        sa.Column("adjust_raises", sa.String(length=200), nullable=False),
        sa.Column("adjust_lock", sa.Text(), nullable=False),
        sa.Column("adjust_rate", sa.Double(), nullable=True),
        sa.Column("adjust_most_turns", sa.Double(), nullable=True),
        sa.Column("adjust_relieve", sa.Boolean(), nullable=False),
        sa.Column("adjust_changes", sa.String(length=200), server_default="", nullable=False),
        sa.Column("storage", sa.Text(), server_default="", nullable=False),
        sa.Column("grip_matters", sa.Boolean(), nullable=True),
        sa.Column("second_unit", sa.String(length=200), server_default="", nullable=False),
        sa.Column("second_resolution", sa.Double(), nullable=True),
        sa.Column("main_graduation", sa.Double(), nullable=True),
        sa.Column("corrects_adapter", sa.Boolean(), server_default=sa.text("0"), nullable=False),
        sa.Column("head_length", sa.Double(), nullable=True),
        sa.Column("interval_school", sa.String(length=200), server_default="", nullable=False),
        sa.Column("fee", sa.Double(), nullable=True),
        sa.Column("freight", sa.Double(), nullable=True),
        sa.Column("days_away", sa.Double(), nullable=True),
        sa.Column("price", sa.Double(), nullable=True),
        sa.Column("bench_minutes", sa.Double(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
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
        sa.Column("station", sa.String(length=200), server_default="", nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_audit_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_audit")),
    )
    op.create_index(op.f("ix_audit_at"), "audit", ["at"], unique=False)
    op.create_index(op.f("ix_audit_subject"), "audit", ["subject"], unique=False)
    op.create_table(
        "certificate",
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("laboratory", sa.String(length=200), nullable=False),
        sa.Column("issued", sa.Date(), nullable=True),
        sa.Column("due", sa.Date(), nullable=False),
        sa.Column("coverage_factor", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_certificate_reference_id_reference")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate")),
    )
    op.create_index(op.f("ix_certificate_reference_id"), "certificate", ["reference_id"], unique=False)
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
    op.create_index(op.f("ix_cross_run_reference_id"), "cross_run", ["reference_id"], unique=False)
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
        "register_version",
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("row_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("before", sa.Text(), nullable=False),
        sa.Column("after", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_register_version_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_register_version")),
        sa.UniqueConstraint("kind", "row_id", "version", name=op.f("uq_register_version_kind")),
    )
    op.create_table(
        "signing_key",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("salt", sa.LargeBinary(), nullable=False),
        sa.Column("cost", sa.Integer(), nullable=False),
        sa.Column("public", sa.LargeBinary(), nullable=False),
        sa.Column("set_by_id", sa.Integer(), nullable=False),
        sa.Column("beside_id", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["beside_id"], ["person.id"], name=op.f("fk_signing_key_beside_id_person")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_signing_key_person_id_person")),
        sa.ForeignKeyConstraint(["set_by_id"], ["person.id"], name=op.f("fk_signing_key_set_by_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_signing_key")),
    )
    op.create_index(op.f("ix_signing_key_person_id"), "signing_key", ["person_id"], unique=False)
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
        sa.Column("owner", sa.String(length=200), server_default="", nullable=False),
        sa.Column("interval_school", sa.String(length=200), server_default="", nullable=False),
        sa.Column("cycles_per_lent_day", sa.Integer(), server_default="0", nullable=False),
        sa.Column("resolution", sa.Double(), nullable=True),
        sa.Column("tolerance", sa.Double(), nullable=True),
        sa.Column("zones", sa.Text(), server_default="", nullable=False),
        sa.Column("lever_length", sa.Double(), nullable=True),
        sa.Column("pivot_offset", sa.Double(), nullable=True),
        sa.Column("own_mass", sa.Double(), nullable=True),
        sa.Column("own_centre", sa.Double(), nullable=True),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("removed", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["model_id"], ["tool_model.id"], name=op.f("fk_tool_model_id_tool_model")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool")),
        sa.UniqueConstraint("number", name=op.f("uq_tool_number")),
    )
    op.create_index(op.f("ix_tool_model_id"), "tool", ["model_id"], unique=False)
    op.create_index(op.f("ix_tool_serial"), "tool", ["serial"], unique=False)
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
    op.create_index(op.f("ix_beam_scale_tool_id"), "beam_scale", ["tool_id"], unique=False)
    op.create_table(
        "certificate_point",
        sa.Column("certificate_id", sa.Integer(), nullable=False),
        sa.Column("torque", sa.Double(), nullable=False),
        sa.Column("error", sa.Double(), nullable=False),
        sa.Column("expanded_uncertainty", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["certificate_id"], ["certificate.id"], name=op.f("fk_certificate_point_certificate_id_certificate")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate_point")),
    )
    op.create_index(op.f("ix_certificate_point_certificate_id"), "certificate_point", ["certificate_id"], unique=False)
    op.create_table(
        "certificate_withdrawal",
        sa.Column("certificate_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["certificate_id"], ["certificate.id"], name=op.f("fk_certificate_withdrawal_certificate_id_certificate")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_certificate_withdrawal_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate_withdrawal")),
        sa.UniqueConstraint("certificate_id", name=op.f("uq_certificate_withdrawal_certificate_id")),
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
        sa.Column("cross_run_id", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["cross_run_id"], ["cross_run.id"], name=op.f("fk_cross_check_cross_run_id_cross_run")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_check_person_id_person")),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_cross_check_reference_id_reference")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_check")),
    )
    op.create_index(op.f("ix_cross_check_reference_id"), "cross_check", ["reference_id"], unique=False)
    op.create_table(
        "cross_reading",
        sa.Column("cross_run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("indicated", sa.Double(), nullable=False),
        sa.Column("actual", sa.Double(), nullable=False),
        sa.Column("uncertainty", sa.Double(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["cross_run_id"], ["cross_run.id"], name=op.f("fk_cross_reading_cross_run_id_cross_run")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_cross_reading_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cross_reading")),
    )
    op.create_index(op.f("ix_cross_reading_cross_run_id"), "cross_reading", ["cross_run_id"], unique=False)
    op.create_table(
        "history_place",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("sequence", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_history_place_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_history_place")),
        sa.UniqueConstraint("tool_id", "sequence", name=op.f("uq_history_place_tool_id")),
    )
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
        "open_loan",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_open_loan_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_open_loan")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_open_loan_tool_id")),
    )
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
        "passphrase_try",
        sa.Column("audit_id", sa.Integer(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("was_right", sa.Boolean(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["audit_id"], ["audit.id"], name=op.f("fk_passphrase_try_audit_id_audit")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_passphrase_try_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_passphrase_try")),
        sa.UniqueConstraint("audit_id", name=op.f("uq_passphrase_try_audit_id")),
    )
    op.create_index(op.f("ix_passphrase_try_person_id"), "passphrase_try", ["person_id"], unique=False)
    op.create_table(
        "tool_event",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("sequence", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("due_back", sa.Date(), nullable=True),
        sa.Column("low", sa.Double(), nullable=True),
        sa.Column("high", sa.Double(), nullable=True),
        sa.Column("cycles", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_tool_event_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_event_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_event")),
    )
    op.create_index(op.f("ix_tool_event_tool_id"), "tool_event", ["tool_id"], unique=False)
    op.create_table(
        "tool_listing",
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
        sa.Column("place", sa.String(length=200), server_default="", nullable=False),
        sa.Column("kind", sa.String(length=200), server_default="", nullable=False),
        sa.Column("smallest", sa.Double(), server_default="0", nullable=False),
        sa.Column("full_scale", sa.Double(), server_default="0", nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_listing_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_listing")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_tool_listing_tool_id")),
    )
    op.create_index("ix_tool_listing_back_by", "tool_listing", ["back_by", "number", "tool_id"], unique=False)
    op.create_index("ix_tool_listing_due", "tool_listing", ["due_on", "number", "tool_id"], unique=False)
    op.create_index("ix_tool_listing_full_scale", "tool_listing", ["full_scale", "number", "tool_id"], unique=False)
    op.create_index("ix_tool_listing_held_back", "tool_listing", ["held_back", "number", "tool_id"], unique=False)
    op.create_index("ix_tool_listing_kind", "tool_listing", ["kind", "number", "tool_id"], unique=False)
    op.create_index(
        "ix_tool_listing_order",
        "tool_listing",
        ["number", "words", "tool_id", "due_on", "held_back", "lent"],
        unique=False,
    )
    op.create_index("ix_tool_listing_place", "tool_listing", ["place", "number", "tool_id"], unique=False)
    op.create_index(op.f("ix_tool_listing_plain_number"), "tool_listing", ["plain_number"], unique=False)
    op.create_index(op.f("ix_tool_listing_plain_serial"), "tool_listing", ["plain_serial"], unique=False)
    op.create_index("ix_tool_listing_waits", "tool_listing", ["waits", "due_on", "number", "tool_id"], unique=False)
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
    op.create_index(op.f("ix_beam_repeat_beam_scale_id"), "beam_repeat", ["beam_scale_id"], unique=False)
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
        "run",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("rule_set", sa.String(length=200), nullable=False),
        sa.Column("opened_at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("rule", sa.String(length=200), nullable=True),
        sa.Column("mode", sa.String(length=200), nullable=True),
        sa.Column("adapter", sa.Text(), nullable=False),
        sa.Column("plan_note", sa.Text(), nullable=False),
        sa.Column("amends_id", sa.Integer(), nullable=True),
        sa.Column("continues_id", sa.Integer(), nullable=True),
        sa.Column("event_id", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["amends_id"], ["run.id"], name=op.f("fk_run_amends_id_run")),
        sa.ForeignKeyConstraint(["continues_id"], ["run.id"], name=op.f("fk_run_continues_id_run")),
        sa.ForeignKeyConstraint(["event_id"], ["tool_event.id"], name=op.f("fk_run_event_id_tool_event")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_run_person_id_person")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_run_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run")),
    )
    op.create_index(op.f("ix_run_amends_id"), "run", ["amends_id"], unique=False)
    op.create_index(op.f("ix_run_continues_id"), "run", ["continues_id"], unique=False)
    op.create_index(op.f("ix_run_tool_id"), "run", ["tool_id"], unique=False)
    op.create_table(
        "tool_standing",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(length=200), nullable=True),
        sa.Column("last_run", sa.Date(), nullable=True),
        sa.Column("due_on", sa.Date(), nullable=True),
        sa.Column("due_reason", sa.String(length=200), nullable=True),
        sa.Column("held", sa.Text(), nullable=False),
        sa.Column("check_event_id", sa.Integer(), nullable=True),
        sa.Column("restricted_low", sa.Double(), nullable=True),
        sa.Column("restricted_high", sa.Double(), nullable=True),
        sa.Column("lent_to", sa.Text(), nullable=False),
        sa.Column("lent_on", sa.Date(), nullable=True),
        sa.Column("back_by", sa.Date(), nullable=True),
        sa.Column("away_at", sa.Text(), nullable=False),
        sa.Column("away_since", sa.Date(), nullable=True),
        sa.Column("away_until", sa.Date(), nullable=True),
        sa.Column("kept", sa.Text(), nullable=False),
        sa.Column("retired", sa.Boolean(), nullable=False),
        sa.Column("cycles", sa.Integer(), server_default="0", nullable=False),
        sa.Column("interval_ends", sa.Date(), nullable=True),
        sa.Column("corrected_until", sa.Date(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["check_event_id"], ["tool_event.id"], name=op.f("fk_tool_standing_check_event_id_tool_event")
        ),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_standing_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_standing")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_tool_standing_tool_id")),
    )
    op.create_index(op.f("ix_tool_standing_away_until"), "tool_standing", ["away_until"], unique=False)
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
        "adjustment",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("begun", sa.Boolean(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_adjustment_person_id_person")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_adjustment_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_adjustment")),
    )
    op.create_index(op.f("ix_adjustment_run_id"), "adjustment", ["run_id"], unique=False)
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
        sa.Column("reproducibility_freedom", sa.Double(), nullable=True),
        sa.Column("output_drive_freedom", sa.Double(), nullable=True),
        sa.Column("interface_freedom", sa.Double(), nullable=True),
        sa.Column("loading_point_freedom", sa.Double(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["model_id"], ["tool_model.id"], name=op.f("fk_characterisation_model_id_tool_model")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_characterisation_run_id_run")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_characterisation_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_characterisation")),
    )
    op.create_index(op.f("ix_characterisation_model_id"), "characterisation", ["model_id"], unique=False)
    op.create_index(op.f("ix_characterisation_run_id"), "characterisation", ["run_id"], unique=False)
    op.create_index(op.f("ix_characterisation_tool_id"), "characterisation", ["tool_id"], unique=False)
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
    op.create_index(op.f("ix_exercise_pull_run_id"), "exercise_pull", ["run_id"], unique=False)
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
    op.create_index(op.f("ix_inspection_line_run_id"), "inspection_line", ["run_id"], unique=False)
    op.create_table(
        "open_run",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_open_run_run_id_run")),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_open_run_tool_id_tool")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_open_run")),
        sa.UniqueConstraint("run_id", name=op.f("uq_open_run_run_id")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_open_run_tool_id")),
    )
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
        "room_reading",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("temperature", sa.Double(), nullable=True),
        sa.Column("humidity", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("source", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_room_reading_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_room_reading")),
    )
    op.create_index(op.f("ix_room_reading_run_id"), "room_reading", ["run_id"], unique=False)
    op.create_table(
        "run_facts",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_run_facts_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run_facts")),
    )
    op.create_index(op.f("ix_run_facts_run_id"), "run_facts", ["run_id"], unique=False)
    op.create_table(
        "run_sides",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_run_sides_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run_sides")),
        sa.UniqueConstraint("run_id", name=op.f("uq_run_sides_run_id")),
    )
    op.create_table(
        "series",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("phase", sa.String(length=200), nullable=False),
        sa.Column("round", sa.Integer(), nullable=False),
        sa.Column("direction", sa.String(length=200), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("target", sa.Double(), nullable=False),
        sa.Column("wanted", sa.Integer(), nullable=False),
        sa.Column("effect", sa.String(length=200), nullable=True),
        sa.Column("place", sa.Integer(), nullable=True),
        sa.Column("turn", sa.Double(), nullable=True),
        sa.Column("abuse", sa.String(length=200), nullable=True),
        sa.Column("abuse_note", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_series_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_series")),
        sa.UniqueConstraint("run_id", "phase", "round", "position", name=op.f("uq_series_run_id")),
    )
    op.create_index(op.f("ix_series_run_id"), "series", ["run_id"], unique=False)
    op.create_table(
        "set_up",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("reference_id", sa.Integer(), nullable=False),
        sa.Column("certificate_id", sa.Integer(), nullable=True),
        sa.Column("mode", sa.String(length=200), nullable=False),
        sa.Column("override", sa.Text(), nullable=False),
        sa.Column("detail", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["certificate_id"], ["certificate.id"], name=op.f("fk_set_up_certificate_id_certificate")
        ),
        sa.ForeignKeyConstraint(["reference_id"], ["reference.id"], name=op.f("fk_set_up_reference_id_reference")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_set_up_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_set_up")),
    )
    op.create_index(op.f("ix_set_up_run_id"), "set_up", ["run_id"], unique=False)
    op.create_table(
        "signature",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("sequence", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("state", sa.String(length=200), nullable=False),
        sa.Column("accepted", sa.Boolean(), nullable=True),
        sa.Column("sentence", sa.Text(), nullable=False),
        sa.Column("rule", sa.String(length=200), nullable=False),
        sa.Column("limit", sa.Double(), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("due_reason", sa.String(length=200), nullable=True),
        sa.Column("outcome", sa.String(length=200), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("second_person_id", sa.Integer(), nullable=True),
        sa.Column("judged_on", sa.Date(), nullable=True),
        sa.Column("due_note", sa.Text(), server_default="", nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_signature_person_id_person")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_signature_run_id_run")),
        sa.ForeignKeyConstraint(["second_person_id"], ["person.id"], name=op.f("fk_signature_second_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_signature")),
        sa.UniqueConstraint("run_id", name=op.f("uq_signature_run_id")),
    )
    op.create_index(op.f("ix_signature_at"), "signature", ["at"], unique=False)
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
        "certificate_number",
        sa.Column("signature_id", sa.Integer(), nullable=False),
        sa.Column("year", sa.Integer(), nullable=False),
        sa.Column("n", sa.Integer(), nullable=True),
        sa.Column("number", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["signature_id"], ["signature.id"], name=op.f("fk_certificate_number_signature_id_signature")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_certificate_number")),
        sa.UniqueConstraint("number", name=op.f("uq_certificate_number_number")),
        sa.UniqueConstraint("signature_id", name=op.f("uq_certificate_number_signature_id")),
        sa.UniqueConstraint("year", "n", name=op.f("uq_certificate_number_year")),
    )
    op.create_table(
        "observation",
        sa.Column("series_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(length=200), nullable=False),
        sa.Column("torque", sa.Double(), nullable=True),
        sa.Column("tool_value", sa.Double(), nullable=True),
        sa.Column("source", sa.String(length=200), nullable=False),
        sa.Column("pull", sa.String(length=200), nullable=True),
        sa.Column("detail", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_observation_person_id_person")),
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_observation_series_id_series")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_observation")),
    )
    op.create_index(op.f("ix_observation_pull"), "observation", ["pull"], unique=False)
    op.create_index(op.f("ix_observation_series_id"), "observation", ["series_id"], unique=False)
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
        sa.Column("near_zone", sa.Double(), nullable=False),
        sa.Column("limit", sa.Double(), nullable=True),
        sa.Column("probability", sa.Double(), nullable=False),
        sa.Column("state", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_point_result_series_id_series")),
        sa.ForeignKeyConstraint(
            ["signature_id"], ["signature.id"], name=op.f("fk_point_result_signature_id_signature")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_point_result")),
    )
    op.create_index(op.f("ix_point_result_signature_id"), "point_result", ["signature_id"], unique=False)
    op.create_index(op.f("ix_point_result_state"), "point_result", ["state"], unique=False)
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
    op.create_table(
        "seal",
        sa.Column("signature_id", sa.Integer(), nullable=False),
        sa.Column("meaning", sa.String(length=200), nullable=False),
        sa.Column("key_id", sa.Integer(), nullable=False),
        sa.Column("mark", sa.LargeBinary(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["key_id"], ["signing_key.id"], name=op.f("fk_seal_key_id_signing_key")),
        sa.ForeignKeyConstraint(["signature_id"], ["signature.id"], name=op.f("fk_seal_signature_id_signature")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_seal")),
        sa.UniqueConstraint("signature_id", "meaning", name=op.f("uq_seal_signature_id")),
    )
    op.create_index(op.f("ix_seal_signature_id"), "seal", ["signature_id"], unique=False)
    op.create_table(
        "zero_check",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("moment", sa.String(length=200), nullable=False),
        sa.Column("of", sa.String(length=200), nullable=False),
        sa.Column("torque", sa.Double(), nullable=False),
        sa.Column("allowed", sa.Double(), nullable=False),
        sa.Column("series_id", sa.Integer(), nullable=True),
        sa.Column("observed", sa.Integer(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_zero_check_run_id_run")),
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_zero_check_series_id_series")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_zero_check")),
    )
    op.create_index(op.f("ix_zero_check_run_id"), "zero_check", ["run_id"], unique=False)
    op.create_index(op.f("ix_zero_check_series_id"), "zero_check", ["series_id"], unique=False)
    op.create_table(
        "kept_reading",
        sa.Column("observation_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("why", sa.String(length=200), nullable=False),
        sa.Column("whose", sa.String(length=200), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["observation_id"], ["observation.id"], name=op.f("fk_kept_reading_observation_id_observation")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_kept_reading_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_kept_reading")),
        sa.UniqueConstraint("observation_id", name=op.f("uq_kept_reading_observation_id")),
    )
    op.create_table(
        "strike",
        sa.Column("observation_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("reason", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["observation_id"], ["observation.id"], name=op.f("fk_strike_observation_id_observation")
        ),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_strike_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_strike")),
        sa.UniqueConstraint("observation_id", name=op.f("uq_strike_observation_id")),
    )
    op.create_table(
        "trace",
        sa.Column("observation_id", sa.Integer(), nullable=False),
        sa.Column("rate", sa.Double(), nullable=False),
        sa.Column("samples", sa.LargeBinary(), nullable=False),
        sa.Column("archived", sa.String(length=200), server_default="", nullable=False),
        sa.Column("faults", sa.Text(), nullable=False),
        sa.Column("over_travel", sa.Double(), nullable=True),
        sa.Column("time_80_to_100", sa.Double(), nullable=True),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(
            ["observation_id"], ["observation.id"], name=op.f("fk_trace_observation_id_observation")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_trace")),
        sa.UniqueConstraint("observation_id", name=op.f("uq_trace_observation_id")),
    )
    op.create_index(op.f("ix_trace_archived"), "trace", ["archived"], unique=False)
