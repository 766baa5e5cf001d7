"""A database of each version opens in those that follow, with everything in it; its signed numbers stay what they were."""

import sqlite3
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext

from reckoner.shop.events import projection
from reckoner.shop.opening import open_shop
from reckoner.shop.records import checking
from reckoner.shop.register import listing
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.opening import open_run_of
from reckoner.shop.runs.recomputing import recompute
from reckoner.shop.runs.records import Step
from reckoner.store.database import FILE, Database
from reckoner.store.errors import DatabaseNewer
from reckoner.store.migrate import record_tables, standing_guards
from reckoner.store.revisions import revisions
from reckoner.store.schema import Base
from tests.support.versions import small_shop, with_a_second_version

SAMPLES = {path.stem: path for path in (Path(__file__).parent / "samples").glob("*.sql")}
"""A database of each version that was released, as SQL."""


def test_there_is_a_sample_of_each_version_before_the_newest():
    assert sorted(SAMPLES) == list(revisions()[:-1])


def test_the_first_revision_makes_the_tables_as_they_are_declared(tmp_path):
    database = open_shop(tmp_path)
    with database.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
    database.close()


def held(folder):
    """What an opened shop holds, found sound."""
    database = open_shop(folder)
    with database.session() as session:
        walked = list(checking.walk(session))
        assert [one for one in walked if isinstance(one, checking.CheckFinding)] == []
        assert projection.rebuild(session) + listing.rebuild(session) == 0
        found = [(r.tool, r.numbers, r.otherwise) for r in recompute(session)]
        assert load(session, open_run_of(session, 2)).step is Step.SET_UP
    with database.engine.connect() as connection:
        assert len(standing_guards(connection)) == 2 * len(record_tables())
        assert connection.exec_driver_sql("PRAGMA foreign_keys").scalar() == 1
    database.close()
    return found


@pytest.mark.parametrize("sample", ["as a file", "as SQL"])
def test_a_database_of_the_first_version_is_the_same_in_a_second(tmp_path, monkeypatch, sample):
    small_shop(tmp_path)
    path = tmp_path / FILE
    if sample == "as SQL":  # as samples are kept
        with sqlite3.connect(path) as connection:
            written = "\n".join(connection.iterdump())
        connection.close()
        path.unlink()
        with sqlite3.connect(path) as connection:
            connection.executescript(written)
        connection.close()
    before = held(tmp_path)
    assert before == [("W-1", 21, ())]
    with_a_second_version(monkeypatch, tmp_path / "migrations")
    assert held(tmp_path) == before
    with sqlite3.connect(path) as connection:
        assert connection.execute("SELECT count(*) FROM tool WHERE colour = ''").fetchone() == (2,)
    connection.close()
    monkeypatch.undo()
    with pytest.raises(DatabaseNewer, match="newer"):
        Database(tmp_path)


@pytest.mark.parametrize("sample", SAMPLES)
def test_a_database_of_a_released_version_opens_with_everything_in_it(tmp_path, sample):
    with sqlite3.connect(tmp_path / FILE) as connection:
        connection.executescript(SAMPLES[sample].read_text())
    connection.close()
    assert held(tmp_path)
