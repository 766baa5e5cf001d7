"""One tool with a long history, to see how its sheet bears it.

    python tools/long_history.py FOLDER HC-0422 400 950

adds copies of the tool's newest signed run, a day apart, and events between them, straight into the database: nothing of it
is linked, so that it is for looking and measuring alone.
"""

from __future__ import annotations

import sqlite3
import sys
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path

from reckoner.store.database import FILE

COPIED = ("run", "series", "signature", "point_result", "set_up")
"""Of a run, in an order in which each names only what is there."""


def lengthen(folder: Path, number: str, runs: int, events: int) -> None:
    """Add ``runs`` signed runs and ``events`` to the tool called ``number``; each event stands after its run."""
    with closing(sqlite3.connect(folder / FILE, isolation_level=None)) as connection:
        connection.row_factory = sqlite3.Row
        tool = connection.execute("SELECT id FROM tool WHERE number = ?", (number,)).fetchone()["id"]
        run, sequence = connection.execute(
            "SELECT g.run_id, g.sequence FROM signature g JOIN run u ON u.id = g.run_id WHERE u.tool_id = ? "
            "ORDER BY g.sequence DESC LIMIT 1",
            (tool,),
        ).fetchone()
        sequence = max(
            sequence,
            connection.execute("SELECT MAX(sequence) FROM tool_event WHERE tool_id = ?", (tool,)).fetchone()[0] or 0,
        )
        rows = {table: _rows(connection, table, run) for table in COPIED}
        began = datetime.fromisoformat(rows["signature"][0]["at"])
        connection.execute("BEGIN")
        for i in range(max(runs, events)):
            at = (began + timedelta(days=i + 1)).isoformat(sep=" ")
            if i < runs:
                sequence += 1
                _copy(connection, rows, run, {"at": at, "opened_at": at, "sequence": sequence})
            if i < events:
                sequence += 1
                connection.execute(
                    "INSERT INTO tool_event (tool_id, sequence, at, person_id, kind, note) VALUES (?, ?, ?, 1, 'noted', ?)",
                    (tool, sequence, at, f"noted for the {i + 1}th time"),
                )
        connection.execute("COMMIT")


def _rows(connection: sqlite3.Connection, table: str, run: int) -> list[sqlite3.Row]:
    which = {
        "run": "id = :run",
        "point_result": "signature_id IN (SELECT id FROM signature WHERE run_id = :run)",
    }.get(table, "run_id = :run")
    return connection.execute(f"SELECT * FROM {table} WHERE {which}", {"run": run}).fetchall()


def _copy(connection: sqlite3.Connection, rows: dict[str, list[sqlite3.Row]], run: int, new: dict[str, object]) -> None:
    ids: dict[tuple[str, int], int] = {}
    names = {"run_id": "run", "series_id": "series", "signature_id": "signature"}
    for table in COPIED:
        for row in rows[table]:
            values = {name: row[name] for name in tuple(row.keys()) if name != "id"}
            values |= {name: value for name, value in new.items() if name in values}
            values |= {name: ids[of, values[name]] for name, of in names.items() if values.get(name) is not None}
            columns, marks = ", ".join(f'"{name}"' for name in values), ", ".join("?" for _ in values)
            made = connection.execute(f"INSERT INTO {table} ({columns}) VALUES ({marks})", tuple(values.values()))
            ids[table, row["id"]] = made.lastrowid or 0


if __name__ == "__main__":
    lengthen(Path(sys.argv[1]), sys.argv[2], int(sys.argv[3]), int(sys.argv[4]))
