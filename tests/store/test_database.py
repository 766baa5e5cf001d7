"""The database opens, refuses, migrates, and never changes a record."""

import shutil
import sqlite3
import threading

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import select, text
from sqlalchemy.exc import OperationalError

from reckoner.core.errors import OurFault
from reckoner.store.database import FILE, Database
from reckoner.store.errors import (
    DatabaseBusy,
    DatabaseDamaged,
    DatabaseNewer,
    DatabaseNotOurs,
    DirectoryNotWritable,
    RecordChanged,
    WrongThread,
)
from reckoner.store.revisions import newest_revision
from reckoner.store.schema import Audit, Base, Observation, Person
from tests.support.clock import NOW


def test_the_migrations_make_just_what_the_schema_says(tmp_path):
    database = Database(tmp_path)
    with database.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar() == newest_revision()
    database.close()


def test_a_folder_that_cannot_be_written_is_named(tmp_path):
    (tmp_path / "file").write_text("in the way")
    with pytest.raises(DirectoryNotWritable, match="Choose another folder with --data"):
        Database(tmp_path / "file" / "data")


def test_a_database_from_a_newer_version_is_refused_and_left_alone(demo_folder):
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    connection.close()
    with pytest.raises(DatabaseNewer, match=r"newer Reckoner .*9999.*Update this Reckoner"):
        Database(demo_folder)
    with sqlite3.connect(demo_folder / FILE) as connection:
        assert connection.execute("SELECT count(*) FROM observation").fetchone()[0] > 1000
    connection.close()


@pytest.mark.parametrize("keep", [100, 20_000, 200_000])
def test_a_truncated_database_is_refused_and_left_alone(demo_folder, keep):
    path = demo_folder / FILE
    path.write_bytes(path.read_bytes()[:keep])
    with pytest.raises(DatabaseDamaged, match="reckoner restore FILE"):
        Database(demo_folder)
    assert path.stat().st_size == keep


def test_text_that_is_no_text_any_more_is_damage(tmp_path):
    database = Database(tmp_path)
    with database.session() as session:
        session.add(Person(initials="A. B.", name="the disk is full, or locked"))
    database.close()
    path = tmp_path / FILE
    kept = path.read_bytes()
    path.write_bytes(kept.replace(b"the disk", b"\xff\xfe\x80 disk"[:8]))
    database = Database(tmp_path)
    with pytest.raises(DatabaseDamaged), database.session() as session:
        session.scalars(select(Person)).all()
    database.close()


def test_a_file_of_somebody_else_is_refused(tmp_path):
    (tmp_path / FILE).write_text("not a database at all, but long enough to look like a header" * 20)
    with pytest.raises(DatabaseNotOurs, match="it is no database"):
        Database(tmp_path)
    (tmp_path / FILE).unlink()
    with sqlite3.connect(tmp_path / FILE) as other:
        other.execute("CREATE TABLE theirs (x)")
    other.close()
    with pytest.raises(DatabaseNotOurs, match="not one of Reckoner's"):
        Database(tmp_path)


def test_records_are_never_changed_or_removed(demo):
    with pytest.raises(RecordChanged), demo.session() as session:
        session.scalars(select(Observation)).first().torque = 1.0
    with pytest.raises(RecordChanged), demo.session() as session:
        session.delete(session.scalars(select(Audit)).first())
    with demo.session() as session:
        assert session.scalars(select(Observation)).first().torque != 1.0
    assert issubclass(RecordChanged, OurFault)


def test_a_unit_of_work_is_kept_whole_or_not_at_all(demo):
    with pytest.raises(ValueError, match="half way"), demo.session() as session:
        session.add(Person(initials="X. X.", name="Nobody"))
        session.flush()
        raise ValueError("half way")
    with demo.session() as session:
        assert session.scalar(select(Person).where(Person.initials == "X. X.")) is None


def test_another_thread_and_another_program_are_refused(demo, demo_folder):
    caught = []

    def elsewhere():
        for way in (demo.session, demo.reading):
            try:
                with way():
                    pass
            except WrongThread as fault:
                caught.append(str(fault))

    thread = threading.Thread(target=elsewhere)
    thread.start()
    thread.join()
    assert caught == ["the database was used from a thread that does not own it"] * 2
    hog = sqlite3.connect(demo_folder / FILE, isolation_level=None)
    hog.execute("BEGIN IMMEDIATE")
    impatient = Database(demo_folder, patience=0.05)
    with pytest.raises(DatabaseBusy, match="Close it there and try again"), impatient.session() as session:
        session.add(Person(initials="Y. Y.", name="Late"))
    impatient.close()
    hog.close()


def test_times_come_back_as_they_went_in(tmp_path):
    database = Database(tmp_path)
    at = NOW
    with database.session() as session:
        session.add(Audit(at=at, action="tried", subject="clock"))
    with database.session() as session:
        assert session.scalars(select(Audit)).one().at == at
    database.close()
    shutil.rmtree(tmp_path)


def test_only_the_disks_own_troubles_are_called_so(demo):
    with pytest.raises(OperationalError, match="no such table"), demo.session() as session:
        session.execute(text("SELECT id FROM nowhere"))
