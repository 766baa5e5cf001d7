"""What grows: a tool with a long history, a register that is checked, a spreadsheet that is brought in."""

from __future__ import annotations

import hashlib
import importlib
import sqlite3
import statistics
import tempfile
import time
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from long_history import lengthen

from benchmarks.heart import Heart
from benchmarks.row import Row
from benchmarks.window import Painted, closed, for_a_while, live, opened
from reckoner.demo import shipped
from reckoner.formats.tables import Table
from reckoner.shop.people.authorship import Act
from reckoner.shop.register.bringing import bring_in
from reckoner.shop.register.columns import meanings
from reckoner.shop.register.spreadsheets import understood
from reckoner.store import chain
from reckoner.store.database import FILE, Database
from reckoner.ui.places import PlaceId, Target

ROUNDS = 7
SHORT, LONG = "HC-0417", "HC-0422"
BROUGHT = 1000


def rows() -> list[Row]:
    """A long sheet against a short one, a link checked against reading it plainly, a row brought in against plain SQL."""
    with tempfile.TemporaryDirectory() as folder:
        shipped.put(Path(folder))
        lengthen(Path(folder), LONG, 400, 950)
        made = _sheets(Path(folder))
    with tempfile.TemporaryDirectory() as folder:
        shipped.put(Path(folder))
        made += _bulk(Path(folder))
    return made


def _sheets(folder: Path) -> list[Row]:
    importlib.import_module("reckoner.ui.tools")
    window = opened(folder)
    window.around.work.start()
    heart = Heart(window)
    live(lambda: window.around.person is not None and window.current.seen and window.idle, 60)
    for_a_while(5.0)
    with closing(sqlite3.connect(folder / FILE)) as connection:
        ids = dict(connection.execute("SELECT number, id FROM tool").fetchall())
    window.go(Target(PlaceId.TOOLS, tool=ids[SHORT]))
    live(lambda: window.idle and window.current.seen)
    sheet, pauses = window.current.sheet, []
    painted = Painted(sheet)
    took: list[tuple[float, float]] = []
    for _ in range(ROUNDS):
        pair = []
        for number in (LONG, SHORT):
            for_a_while(0.1)
            heart.worst()
            begun = time.perf_counter()
            window.go(Target(PlaceId.TOOLS, tool=ids[number]))
            live(lambda number=number: sheet.number.text() == number and window.idle)
            pair.append(painted.at - begun)
            pauses.append(heart.worst())
        took.append((pair[0] / pair[1], pair[0]))
    closed(window)
    ratios = sorted(one for one, _ in took)
    middle = statistics.median(ratios)
    name = f"a sheet of 1350 lines painted ({statistics.median(s for _, s in took) * 1000:.0f} ms), times one of ten"
    return [
        Row(name, middle, at_most=2, low=ratios[0], high=ratios[-1]),
        Row("longest pause while it is opened, all rounds", max(pauses) * 1000, at_most=50, unit="ms"),
    ]


def _bulk(folder: Path) -> list[Row]:
    database = Database(folder)
    act = Act(1, datetime(2026, 11, 24, 9, 30, tzinfo=UTC))
    columns = ("Number", "Kind", "Maker", "Model", "Range [N·m]", "Serial", "Location", "Last", "Due", "Result")
    said = ("click wrench", "Ottermoor", "K 200", "40-200", "S", "Hall 3", "2026-03-04", "2027-03-04", "passed")
    table = Table("list.csv", columns, tuple((i + 2, (f"ZZ-{i:05}", *said)) for i in range(BROUGHT)))
    begun = time.process_time()
    with database.session() as session:
        found = understood(session, table, meanings(table))
        bring_in(session, [row.tool for row in found if row.tool is not None], "list.csv", act)
    brought = time.process_time() - begun
    walked = []
    for _ in range(3):
        begun = time.process_time()
        with database.session() as session:
            links = sum(1 for _ in chain.walk_links(session.connection()))
        walked.append(time.process_time() - begun)
    database.close()
    plain, rows_of = min(_read(folder) for _ in range(3)), _rows_of(folder)
    written = min(_write(folder, rows_of) for _ in range(3))
    checked = f"a link of the chain checked ({min(walked) / links * 1000:.2f} ms), times read and hashed"
    one = f"a row of a spreadsheet brought in ({brought / BROUGHT * 1000:.1f} ms), times plain SQL"
    return [Row(checked, min(walked) / plain, at_most=4), Row(one, brought / written, at_most=60)]


def _tables() -> list[str]:
    return sorted({part.table for parts in chain.FORMS[chain.NEWEST].values() for part in parts})


def _read(folder: Path) -> float:
    """All that the chain covers, read and hashed row by row."""
    with closing(sqlite3.connect(folder / FILE)) as connection:
        begun = time.process_time()
        for table in _tables():
            for row in connection.execute(f"SELECT * FROM {table}"):
                hashlib.sha256(repr(row).encode()).hexdigest()
        return time.process_time() - begun


def _rows_of(folder: Path) -> dict[str, list[tuple[object, ...]]]:
    """What was written for the tools that were brought in."""
    tables = (
        "tool",
        "register_version",
        "tool_event",
        "history_place",
        "tool_standing",
        "tool_listing",
        "audit",
        "chain_link",
    )
    with closing(sqlite3.connect(folder / FILE)) as connection:
        return {
            table: connection.execute(f"SELECT * FROM {table} ORDER BY rowid DESC LIMIT {BROUGHT}").fetchall()
            for table in tables
        }


def _write(folder: Path, written: dict[str, list[tuple[object, ...]]]) -> float:
    """The same rows into bare tables."""
    with closing(sqlite3.connect(":memory:")) as connection:
        begun = time.process_time()
        for table, found in written.items():
            marks = ", ".join("?" for _ in found[0])
            connection.execute(f"CREATE TABLE {table} ({', '.join(f'c{i}' for i in range(len(found[0])))})")
            connection.executemany(f"INSERT INTO {table} VALUES ({marks})", found)
        return time.process_time() - begun
