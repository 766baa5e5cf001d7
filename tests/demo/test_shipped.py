"""The demo's database that is shipped is what the demo's own script writes."""

import sqlite3
from contextlib import closing

import pytest

from reckoner.demo import shipped
from reckoner.demo.build import build
from reckoner.shop.opening import open_shop
from reckoner.shop.records import checking
from reckoner.store import sqlitefile
from reckoner.store.database import FILE, Database
from reckoner.store.errors import DirectoryNotWritable

MADE_OF_NUMBERS = ("chain_link",)
"""Tables of digests over numbers, whose last digit another processor may round otherwise."""


def tables(path):
    """Every table's columns and rows, by its name."""
    with closing(sqlite3.connect(path)) as connection:
        names = [name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")]
        columns = {name: connection.execute(f"PRAGMA table_info({name})").fetchall() for name in names}
        return columns, {
            name: connection.execute(f"SELECT * FROM {name} ORDER BY 1, {name}.rowid").fetchall() for name in names
        }


def same(one, other):
    return one == other or (isinstance(one, float) and one == pytest.approx(other, rel=1e-9))


def test_the_shipped_demo_is_what_its_script_writes(built_demo, tmp_path):
    database = open_shop(tmp_path)
    build(database)
    database.close()
    columns, found = tables(built_demo / FILE)
    wanted_columns, wanted = tables(tmp_path / FILE)
    assert columns == wanted_columns
    for name in set(found) - set(MADE_OF_NUMBERS):
        assert len(found[name]) == len(wanted[name]), name
        for one, other in zip(found[name], wanted[name], strict=True):
            assert all(map(same, one, other)), f"{name}: run make demo-data"
    assert len(found["chain_link"]) == len(wanted["chain_link"])


def test_the_shipped_demo_is_whole(tmp_path):
    shipped.put(tmp_path)
    demo = Database(tmp_path)
    with demo.session() as session:
        assert [one for one in checking.walk(session) if isinstance(one, checking.CheckFinding)] == []
    demo.close()


def test_the_demo_is_put_only_where_no_database_is(tmp_path):
    (tmp_path / FILE).write_bytes(b"mine")
    (tmp_path / f"{FILE}-wal").write_bytes(b"not folded in yet")
    for put in (shipped.put, lambda folder: sqlitefile.put(folder, b"another")):
        put(tmp_path)
        assert {path.name: path.read_bytes() for path in tmp_path.iterdir()} == {
            FILE: b"mine",
            f"{FILE}-wal": b"not folded in yet",
        }
    blocked = tmp_path / "file"
    blocked.write_text("")
    with pytest.raises(DirectoryNotWritable):
        shipped.put(blocked / "demo")
