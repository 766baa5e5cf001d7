"""Versioned register, facts kept with each run, observations, typed phases, standing, one open run a tool"""

import json
import tomllib

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"

REGISTER = ("person", "tool_model", "tool", "reference")
REASONS = {
    "it has never been tested": "never-tested",
    "its interval ends": "calendar",
    "its cycles are used up": "cycles",
    "something happened to it": "event",
}
EFFECTS = ("reproducibility", "output_drive", "interface", "loading_point")


def upgrade() -> None:
    connection = op.get_bind()
    _register()
    _facts(connection)
    _runs()
    _series(connection)
    _observations(connection)
    _zeros()
    _signatures(connection)
    _tools(connection)
    op.drop_table("preference")


def _register() -> None:
    for table in REGISTER:
        with op.batch_alter_table(table) as batch:
            batch.add_column(sa.Column("version", sa.Integer(), nullable=False, server_default="1"))
            batch.add_column(sa.Column("removed", sa.Boolean(), nullable=False, server_default=sa.false()))
            if table == "reference":
                batch.add_column(sa.Column("kind", sa.String(length=200), nullable=False, server_default="meter"))
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


def _facts(connection: sa.Connection) -> None:
    """Each run's facts as the register has them now: what it was judged by, as far as that is still known."""
    op.create_table(
        "run_facts",
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("document", sa.Text(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_run_facts_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_run_facts")),
    )
    op.create_index(op.f("ix_run_facts_run_id"), "run_facts", ["run_id"])
    runs = connection.execute(
        sa.text(
            "SELECT r.id, r.opened_at, r.rule_set AS rules_name, r.rule_set_text, t.id AS tool_id, t.number, t.serial, t.place, "
            "t.rule_set, t.interval_months, m.id AS model_id, m.maker, m.name, m.type, m.class AS class_, m.mechanism, "
            "m.minimum, m.maximum, m.resolution, m.tolerance, m.unit, m.drive, m.directions, m.approach, m.lever_length, "
            "m.pivot_offset, m.own_mass, m.own_centre, m.adjust_where, m.adjust_raises, m.adjust_lock, m.adjust_rate, "
            "m.adjust_most_turns, m.adjust_relieve "
            "FROM run r JOIN tool t ON t.id = r.tool_id JOIN tool_model m ON m.id = t.model_id"
        )
    ).mappings()
    for run in runs.all():
        document = {
            "version": 1,
            "tool": _tool(run),
            "reference": _reference(connection, run["id"]),
            "effects": _effects(connection, run),
            "rules": {"name": run["rules_name"], "text": run["rule_set_text"]},
        }
        connection.execute(
            sa.text("INSERT INTO run_facts (run_id, at, document) VALUES (:run, :at, :document)"),
            {"run": run["id"], "at": run["opened_at"], "document": json.dumps(document, ensure_ascii=False)},
        )


def _tool(run: sa.RowMapping) -> dict[str, object]:
    adjustment = None
    if run["adjust_where"]:
        adjustment = {
            "where": run["adjust_where"],
            "raises": run["adjust_raises"] or "cw",
            "lock": run["adjust_lock"],
            "rate": run["adjust_rate"],
            "most_turns": run["adjust_most_turns"],
            "relieve": bool(run["adjust_relieve"]),
        }
    return {
        "id": run["tool_id"],
        "number": run["number"],
        "serial": run["serial"],
        "maker": run["maker"],
        "model": run["name"],
        "model_id": run["model_id"],
        "type": run["type"],
        "class": run["class_"],
        "mechanism": run["mechanism"],
        "minimum": run["minimum"],
        "maximum": run["maximum"],
        "resolution": run["resolution"],
        "tolerance": run["tolerance"],
        "unit": run["unit"],
        "drive": run["drive"],
        "directions": ["cw", "ccw"] if run["directions"] == "both" else [run["directions"]],
        "approach": run["approach"],
        "place": run["place"],
        "rule_set": run["rule_set"],
        "interval_months": run["interval_months"],
        "lever": run["lever_length"],
        "pivot": run["pivot_offset"],
        "own_mass": run["own_mass"],
        "own_centre": run["own_centre"],
        "adjustment": adjustment,
    }


def _reference(connection: sa.Connection, run_id: int) -> dict[str, object] | None:
    found = (
        connection.execute(
            sa.text(
                "SELECT f.id, f.number, f.serial, f.minimum, f.maximum, f.resolution, f.zero_tolerance, f.corrected, "
                "c.id AS certificate_id, c.number AS certificate, c.laboratory, c.issued, c.due, c.coverage_factor "
                "FROM set_up s JOIN reference f ON f.id = s.reference_id JOIN certificate c ON c.id = s.certificate_id "
                "WHERE s.run_id = :run ORDER BY s.id DESC LIMIT 1"
            ),
            {"run": run_id},
        )
        .mappings()
        .first()
    )
    if found is None:
        return None
    points = connection.execute(
        sa.text(
            "SELECT torque, error, expanded_uncertainty FROM certificate_point WHERE certificate_id = :id ORDER BY torque"
        ),
        {"id": found["certificate_id"]},
    ).all()
    return {
        "id": found["id"],
        "number": found["number"],
        "kind": "meter",
        "serial": found["serial"],
        "minimum": found["minimum"],
        "maximum": found["maximum"],
        "resolution": found["resolution"],
        "zero_tolerance": found["zero_tolerance"],
        "corrected": bool(found["corrected"]),
        "certificate": {
            "id": found["certificate_id"],
            "number": found["certificate"],
            "laboratory": found["laboratory"],
            "issued": str(found["issued"]),
            "due": str(found["due"]),
            "coverage_factor": found["coverage_factor"],
            "points": [list(p) for p in points],
        },
    }


def _effects(connection: sa.Connection, run: sa.RowMapping) -> dict[str, object]:
    found = (
        connection.execute(
            sa.text(
                "SELECT tool_id, at, reproducibility, output_drive, interface, loading_point FROM characterisation "
                "WHERE (tool_id = :tool OR model_id = :model) AND at <= :opened "
                "ORDER BY tool_id IS NULL, at DESC LIMIT 1"
            ),
            {"tool": run["tool_id"], "model": run["model_id"], "opened": run["opened_at"]},
        )
        .mappings()
        .first()
    )
    if found is None:
        return {"of": None, "on": None, **dict.fromkeys(EFFECTS)}
    of = "model" if found["tool_id"] is None else "tool"
    return {"of": of, "on": str(found["at"])[:10], **{name: found[name] for name in EFFECTS}}


def _runs() -> None:
    with op.batch_alter_table("run") as batch:
        batch.drop_column("rule_set_text")
        for name in ("rule", "mode"):
            batch.alter_column(name, existing_type=sa.String(length=200), nullable=True, server_default=None)
    op.execute("UPDATE run SET rule = NULL WHERE rule = ''")
    op.execute("UPDATE run SET mode = NULL WHERE mode = ''")
    with op.batch_alter_table("set_up") as batch:
        batch.alter_column("certificate_id", existing_type=sa.Integer(), nullable=True)
        batch.add_column(sa.Column("detail", sa.Text(), nullable=False, server_default="{}"))
    op.execute("UPDATE room_reading SET source = 'typed' WHERE source = 'again'")


def _series(connection: sa.Connection) -> None:
    with op.batch_alter_table("series") as batch:
        batch.drop_constraint("uq_series_run_id", type_="unique")
        batch.drop_column("place")
        batch.add_column(sa.Column("round", sa.Integer(), nullable=False, server_default="0"))
        batch.add_column(sa.Column("effect", sa.String(length=200), nullable=True))
    with op.batch_alter_table("series") as batch:
        batch.add_column(sa.Column("place", sa.Integer(), nullable=True))
    seen: dict[tuple[int, str], int] = {}
    for series in connection.execute(sa.text("SELECT id, run_id, phase FROM series ORDER BY run_id, position")).all():
        phase, number, effect, place = _phase(series.phase)
        if effect is not None:
            place = seen.get((series.run_id, effect), 0)
            seen[series.run_id, effect] = place + 1
        connection.execute(
            sa.text(
                "UPDATE series SET phase = :phase, round = :round, effect = :effect, place = :place WHERE id = :id"
            ),
            {"phase": phase, "round": number, "effect": effect, "place": place, "id": series.id},
        )
    with op.batch_alter_table("series") as batch:
        batch.create_unique_constraint("uq_series_run_id", ["run_id", "phase", "round", "position"])


def _phase(words: str) -> tuple[str, int, str | None, int | None]:
    if words == "as found":
        return "found", 0, None, None
    if words in EFFECTS:
        return "measure", 0, words, None
    name, _, number = words.rpartition(" ")
    return {"adjust": "adjust", "as left": "left"}[name], int(number), None, None


def _observations(connection: sa.Connection) -> None:
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
        sa.ForeignKeyConstraint(["series_id"], ["series.id"], name=op.f("fk_observation_series_id_series")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_observation_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_observation")),
    )
    op.execute(
        "INSERT INTO observation (id, series_id, at, person_id, kind, torque, source, detail) "
        "SELECT id, series_id, at, person_id, 'value', torque, source, '{}' FROM reading"
    )
    op.create_index(op.f("ix_observation_series_id"), "observation", ["series_id"])
    op.create_index(op.f("ix_observation_pull"), "observation", ["pull"])
    op.create_table(
        "strike_new",
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
    op.execute(
        "INSERT INTO strike_new (id, observation_id, at, person_id, reason) "
        "SELECT id, reading_id, at, person_id, reason FROM strike"
    )
    op.create_table(
        "trace_new",
        sa.Column("observation_id", sa.Integer(), nullable=False),
        sa.Column("rate", sa.Double(), nullable=False),
        sa.Column("samples", sa.LargeBinary(), nullable=False),
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
    op.execute(
        "INSERT INTO trace_new (id, observation_id, rate, samples, faults, over_travel, time_80_to_100) "
        "SELECT id, reading_id, rate, samples, faults, over_travel, time_80_to_100 FROM trace"
    )
    for trace in connection.execute(sa.text("SELECT id, faults FROM trace_new")).all():
        faults = [f for f in trace.faults.split(", ") if f]
        connection.execute(
            sa.text("UPDATE trace_new SET faults = :faults WHERE id = :id"),
            {"faults": json.dumps(faults), "id": trace.id},
        )
    for table in ("strike", "trace"):
        op.drop_table(table)
        op.rename_table(f"{table}_new", table)
    op.drop_table("reading")


def _zeros() -> None:
    with op.batch_alter_table("zero_check") as batch:
        batch.alter_column("when", new_column_name="moment", existing_type=sa.String(length=200), nullable=False)
        batch.add_column(sa.Column("of", sa.String(length=200), nullable=False, server_default="reference"))
    for moment in ("before", "after"):
        op.execute(f"UPDATE zero_check SET moment = '{moment}', \"of\" = 'pointer' WHERE moment = 'pointer {moment}'")


def _signatures(connection: sa.Connection) -> None:
    with op.batch_alter_table("signature") as batch:
        batch.add_column(sa.Column("sequence", sa.Integer(), nullable=False, server_default="0"))
        for name in ("due_reason", "outcome"):
            batch.alter_column(name, existing_type=sa.String(length=200), nullable=True, server_default=None)
        batch.alter_column("note", existing_type=sa.Text(), nullable=False)
    op.execute("UPDATE signature SET outcome = NULL WHERE outcome = ''")
    op.execute("UPDATE signature SET due_reason = NULL WHERE due_reason = ''")
    for old, new in REASONS.items():
        connection.execute(
            sa.text("UPDATE signature SET due_reason = :new WHERE due_reason = :old"), {"old": old, "new": new}
        )
    with op.batch_alter_table("point_result") as batch:
        batch.add_column(sa.Column("near_zone", sa.Double(), nullable=False, server_default="0"))
    documents = connection.execute(
        sa.text("SELECT s.id, f.document FROM signature s JOIN run_facts f ON f.run_id = s.run_id")
    ).all()
    for signature, document in documents:
        try:
            guard = tomllib.loads(json.loads(document)["rules"]["text"]).get("decision", {}).get("guard_factor", 1.0)
        except tomllib.TOMLDecodeError:
            guard = 1.0
        connection.execute(
            sa.text(
                "UPDATE point_result SET near_zone = :guard * expanded_uncertainty + abs(reference_error) "
                "WHERE signature_id = :signature"
            ),
            {"guard": guard, "signature": signature},
        )


def _tools(connection: sa.Connection) -> None:
    with op.batch_alter_table("tool_event") as batch:
        batch.add_column(sa.Column("sequence", sa.Integer(), nullable=False, server_default="0"))
    happened: dict[int, list[tuple[str, int, str, int]]] = {}
    for row in connection.execute(sa.text("SELECT id, tool_id, at FROM tool_event")).all():
        happened.setdefault(row.tool_id, []).append((str(row.at), 0, "tool_event", row.id))
    signed = sa.text("SELECT s.id, r.tool_id, s.at FROM signature s JOIN run r ON r.id = s.run_id")
    for row in connection.execute(signed).all():
        happened.setdefault(row.tool_id, []).append((str(row.at), 1, "signature", row.id))
    for lines in happened.values():
        for number, (_, _, table, row_id) in enumerate(sorted(lines), start=1):
            connection.execute(
                sa.text(f"UPDATE {table} SET sequence = :n WHERE id = :id"),
                {"n": number, "id": row_id},
            )
    op.create_table(
        "open_run",
        sa.Column("tool_id", sa.Integer(), nullable=False),
        sa.Column("run_id", sa.Integer(), nullable=False),
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_open_run_tool_id_tool")),
        sa.ForeignKeyConstraint(["run_id"], ["run.id"], name=op.f("fk_open_run_run_id_run")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_open_run")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_open_run_tool_id")),
        sa.UniqueConstraint("run_id", name=op.f("uq_open_run_run_id")),
    )
    _open_runs(connection)
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
        sa.Column("id", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["tool_id"], ["tool.id"], name=op.f("fk_tool_standing_tool_id_tool")),
        sa.ForeignKeyConstraint(
            ["check_event_id"], ["tool_event.id"], name=op.f("fk_tool_standing_check_event_id_tool_event")
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tool_standing")),
        sa.UniqueConstraint("tool_id", name=op.f("uq_tool_standing_tool_id")),
    )


def _open_runs(connection: sa.Connection) -> None:
    """The run that each tool is in. Where there were two, the older one is given up, with that as its reason."""
    found = connection.execute(
        sa.text(
            "SELECT r.id, r.tool_id, r.person_id, r.opened_at FROM run r LEFT JOIN signature s ON s.run_id = r.id "
            "LEFT JOIN abandonment a ON a.run_id = r.id WHERE s.id IS NULL AND a.id IS NULL ORDER BY r.id"
        )
    ).all()
    newest = {row.tool_id: row.id for row in found}
    for row in found:
        if newest[row.tool_id] == row.id:
            connection.execute(
                sa.text("INSERT INTO open_run (tool_id, run_id) VALUES (:tool, :run)"),
                {"tool": row.tool_id, "run": row.id},
            )
        else:
            connection.execute(
                sa.text("INSERT INTO abandonment (run_id, at, person_id, reason) VALUES (:run, :at, :person, :why)"),
                {
                    "run": row.id,
                    "at": row.opened_at,
                    "person": row.person_id,
                    "why": "a later run of this tool was open",
                },
            )
