"""A register of many tools with five signed runs each, to see how everything else bears it.

    python tools/big_register.py 100000 FOLDER

Forty tools and their runs are written by the shop's own code; the rest are copies of them under numbers and serials of their
own, made by the database. Every record is linked, so that `reckoner verify --records` and `--runs` find it as the shop would
have written it.
"""

from __future__ import annotations

import argparse
import sqlite3
import time
from collections.abc import Iterator
from contextlib import closing
from datetime import timedelta
from pathlib import Path

import numpy as np
from sqlalchemy import select

from reckoner.demo.build import BEGAN, HiddenTruth, at, write_run
from reckoner.demo.scenario import demo_today, scenario
from reckoner.shop.events.recording import record_event
from reckoner.shop.facts.tool import tool_facts
from reckoner.shop.opening import open_shop
from reckoner.shop.people.authorship import Act
from reckoner.shop.procedures.choosing import references
from reckoner.shop.register import registerfile
from reckoner.shop.register.intake import take_in
from reckoner.store import chain
from reckoner.store.database import FILE
from reckoner.store.schema import Base, Tool
from reckoner.store.terms import EventKind

PATTERN = 40
"""Tools that the shop itself writes."""

RUNS = 5
PLACES = ("Workshop", "Upper Station", "Lower Station", "Tower crew", "Line 2 crew")

NEWEST_RUN = {0: 380, 1: 372, 2: 360, 3: 345, 4: 340, **{k: 20 + 8 * k for k in range(5, PATTERN)}}
"""How many days ago each was tested last: two are overdue, three fall due."""

HELD, LENT_LATE, LENT = 7, 8, 9

COPIED = (
    "tool", "tool_event", "history_place", "open_loan", "tool_listing", "tool_standing", "run", "exercise_pull",
    "inspection_line", "room_reading", "run_facts", "series", "set_up", "signature", "observation", "point_result",
    "zero_check", "register_version", "audit",
)  # fmt: skip
"""In an order in which each names only what is there."""


def build(count: int, folder: Path) -> float:
    """Write a register of ``count`` tools into an empty ``folder``; returns the seconds taken."""
    begun = time.monotonic()
    _pattern(folder)
    with closing(sqlite3.connect(folder / FILE, isolation_level=None)) as connection:
        connection.execute("PRAGMA synchronous = OFF")
        connection.execute("PRAGMA journal_mode = OFF")
        connection.execute("PRAGMA cache_size = -400000")
        connection.execute("BEGIN")
        _copy(connection, count)
        _link(connection)
        connection.execute("COMMIT")
        connection.execute("PRAGMA journal_mode = WAL")
    return time.monotonic() - begun


def _pattern(folder: Path) -> None:
    """The tools that are copied, as the shop writes them."""
    told = scenario()["register"]
    models = [m for m in told["models"] if m.get("directions", "cw") == "cw" and m["type"] == "II"][:4]
    tools = [
        {
            "number": f"W-{k:06}",
            "serial": f"S{k:06}",
            "model": f"{models[k % len(models)]['maker']} {models[k % len(models)]['name']}",
            "place": PLACES[k % len(PLACES)],
        }
        for k in range(PATTERN)
    ]
    database = open_shop(folder)
    with database.session() as session:
        read = registerfile.validate({**told, "models": models, "tools": tools}, "tools")
        take_in(session, read, at(demo_today() - BEGAN, 8, 0))
        meters = references(session)
        for k, row in enumerate(session.scalars(select(Tool).order_by(Tool.number)).all()):
            rng = np.random.default_rng([k, 1])
            newest = demo_today() - timedelta(days=NEWEST_RUN[k])
            days = tuple(newest - timedelta(days=182 * back) for back in range(RUNS - 1, -1, -1))
            jumps = ((newest, -0.09),) if k == HELD else ()
            story = HiddenTruth(float(rng.normal(0.002, 0.004)), float(rng.normal(0, 0.002)), 0.0035, days, jumps)
            for day in days:
                write_run(session, tool_facts(row), story, day, Act(1 + k % 3, at(day, 9, k)), meters, rng)
            if k in (LENT_LATE, LENT):
                back = demo_today() + timedelta(days=-4 if k == LENT_LATE else 9)
                lent = demo_today() - timedelta(days=18)
                record_event(session, row.id, EventKind.LENT, "Tower crew", Act(1, at(lent, 8, 0)), due_back=back)
    database.close()


def _copy(connection: sqlite3.Connection, count: int) -> None:
    """Copies of the pattern up to ``count`` tools, table by table; of the last round only as many as are wanted."""
    rounds = -(-count // PATTERN) - 1
    connection.execute("CREATE TEMP TABLE rounds AS WITH RECURSIVE n(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM n) "
                       f"SELECT n FROM n LIMIT {max(rounds, 0)}")  # fmt: skip
    if rounds < 1:
        return
    sizes = {name: connection.execute(f"SELECT max(id) FROM {name}").fetchone()[0] or 0 for name in COPIED}
    for name in COPIED:
        table = Base.metadata.tables[name]
        values = {}
        for column in table.columns:
            named = next((k.column.table.name for k in column.foreign_keys), None)
            size = sizes[name] if column.name == "id" else sizes.get(named or "", 0)
            values[column.name] = f't."{column.name}" + r.n * {size}' if size else f't."{column.name}"'
        values |= _own(name, sizes["tool"])
        columns = ", ".join(f'"{column}"' for column in values)
        source, where = _SOURCES.get(name, ("", "1 = 1"))
        connection.execute(
            f"INSERT INTO {name} ({columns}) SELECT {', '.join(values.values())} FROM rounds r, {name} t {source} "
            f"WHERE {where} AND t.id <= {sizes[name]} ORDER BY r.n, t.id"
        )


_SOURCES = {
    "tool_listing": ("JOIN tool o ON o.id = t.tool_id", "1 = 1"),
    "run_facts": ("JOIN run u ON u.id = t.run_id JOIN tool o ON o.id = u.tool_id", "1 = 1"),
    "register_version": ("JOIN tool o ON o.id = t.row_id", "t.kind = 'tool'"),
    "audit": ("JOIN tool o ON o.number = t.subject", "1 = 1"),
}
"""Where a copied table takes the tool ``o`` from whose number it says, and which of its rows are a tool's."""


def _own(name: str, tools: int) -> dict[str, str]:
    """The columns of a copy that say its own number or serial."""
    old = "substr({}.number, 3)"
    new = f"printf('%06d', substr({{}}.number, 3) + r.n * {PATTERN})"

    def said(column: str, of: str) -> str:
        text = f"t.{column}"
        for lead in ("W-", "w-", "w", "S", "s"):
            text = f"replace({text}, '{lead}' || {old.format(of)}, '{lead}' || {new.format(of)})"
        return text

    match name:
        case "tool":
            return {column: said(column, "t") for column in ("number", "serial")}
        case "tool_listing":
            return {column: said(column, "o") for column in ("number", "plain_number", "plain_serial", "words")}
        case "run_facts":
            return {"document": f"json_set({said('document', 'o')}, '$.tool.id', o.id + r.n * {tools})"}
        case "register_version":
            return {"row_id": f"t.row_id + r.n * {tools}", "after": said("after", "o")}
        case "audit":
            return {column: said(column, "o") for column in ("subject", "detail")}
        case _:
            return {}


def _link(connection: sqlite3.Connection) -> None:
    """The chain over what was copied, as ``store.chain`` would have made it."""
    parts = chain.FORMS[chain.NEWEST]
    place, before = connection.execute("SELECT place, digest FROM chain_link ORDER BY place DESC LIMIT 1").fetchone()
    asking = connection.cursor()

    def links() -> Iterator[tuple[object, ...]]:
        nonlocal place, before
        for table, (kind, column) in chain.COMES_WITH.items():
            linked = (
                connection.execute("SELECT max(row_id) FROM chain_link WHERE kind = ?", (kind.value,)).fetchone()[0]
                or 0
            )
            ids = connection.execute(f"SELECT {column} FROM {table} WHERE {column} > {linked} ORDER BY {column}")
            for (row_id,) in ids.fetchall():
                found = [[p.table, [row[1:] for row in asking.execute(p.select((row_id,)))]] for p in parts[kind]]
                content = chain.content_from(chain.NEWEST, kind, found)
                place += 1
                before = chain.digest_of(before, place, kind.value, row_id, chain.NEWEST, content)
                yield place, kind.value, row_id, chain.NEWEST, content, before

    connection.executemany(
        "INSERT INTO chain_link (place, kind, row_id, form, content, digest) VALUES (?, ?, ?, ?, ?, ?)", links()
    )


def main() -> None:
    reader = argparse.ArgumentParser(description=__doc__.splitlines()[0])
    reader.add_argument("count", type=int, help=f"tools, a multiple of {PATTERN}")
    reader.add_argument("folder", type=Path, help="an empty folder")
    asked = reader.parse_args()
    if asked.count < PATTERN or asked.count % PATTERN:
        reader.error(f"the count is a multiple of {PATTERN}, such as {max(1, round(asked.count / PATTERN)) * PATTERN}")
    asked.folder.mkdir(parents=True, exist_ok=True)
    if (asked.folder / FILE).exists():
        reader.error(f"there is a database in {asked.folder} already")
    print(f"{asked.count} tools in {build(asked.count, asked.folder):.0f} s")


if __name__ == "__main__":
    main()
