"""Traces leave the database for an archive and are found again; nothing else of a record can change, and none gets lost."""

import hashlib
import os
import signal
import sqlite3
import subprocess
import sys
import zipfile
from contextlib import closing

import numpy as np
import pytest
from click.testing import CliRunner
from sqlalchemy import select

from reckoner.cli.main import make_command
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.records.storage import archive_old, day_before, storage
from reckoner.shop.register import editing
from reckoner.shop.register.fields import field_of
from reckoner.shop.runs.taking import kept_pulls
from reckoner.store.archive import FOLDER, ArchiveRefused, archives, old_traces, samples_in
from reckoner.store.database import FILE, Database
from reckoner.store.migrate import GUARD_WORDS
from reckoner.store.reader import reader_of
from reckoner.store.schema import Observation, Trace
from reckoner.store.terms import RegisterKind
from tests.support.runs import TODAY, outside, tool_id

RAMP = np.linspace(0, 120, 500, dtype="<f4")


@pytest.fixture
def traced(demo, act):
    """A run with three traces, that lies years back once the clock says so."""
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        series = run.found[0]
        for found in session.scalars(select(Observation).where(Observation.series_id == series.id).limit(3)):
            session.add(Trace(observation_id=found.id, rate=1000.0, samples=RAMP.tobytes()))
    return demo, series.id


def rule(session, act, years=1):
    field = field_of(RegisterKind.SHOP, "trace_years")
    editing.change(session, RegisterKind.SHOP, editing.the_shop(session), field, years, act)


def years_on(act, years=2):
    return act.at.replace(year=act.at.year + years)


def test_a_trace_goes_to_an_archive_by_the_shops_rule_and_is_seen_from_there(traced, act, demo_folder):
    demo, series = traced
    with demo.session() as session:
        with pytest.raises(ShopRefused, match="how many years"):
            archive_old(session, act.at, 1)
        rule(session, act)
        before = kept_pulls(reader_of(session), series)
        whole = list(checking.walk(session))
        assert archive_old(session, act.at, 1) is None  # none is a year old
        day = day_before(years_on(act).date(), 1)
        assert len(old_traces(reader_of(session), day, 2)) == 2
        used = storage(reader_of(session), years_on(act).date())
        assert (used.trace_count, used.traces, used.old, used.first) == (3, 3 * RAMP.nbytes, 3, TODAY)
        put = archive_old(session, years_on(act), 1)
        assert put.count == 3
    with demo.session() as session:
        reader = reader_of(session)
        assert reader.value("SELECT sum(length(samples)) FROM trace") == 0
        after = kept_pulls(reader, series)
        assert [list(p.samples) for p in after] == [list(p.samples) for p in before]
        assert [p.reading for p in after] == [p.reading for p in before]
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
        assert len(list(checking.walk(session))) > len(whole)  # the archiving itself is linked
        assert storage(reader, TODAY).archive_count == 1
        with zipfile.ZipFile(put.path) as archive:
            assert len(archive.read("index.csv").decode().splitlines()) == 4
        put.path.rename(demo_folder / "elsewhere.zip")
        gone = kept_pulls(reader, series)
        assert all("in none of the archives" in p.gone for p in gone)
        assert [p.reading for p in gone] == [p.reading for p in before]


def test_the_guards_let_nothing_else_change_and_the_chain_finds_a_wrong_digest(traced, act):
    demo, _series = traced
    with closing(sqlite3.connect(demo.path)) as other:
        for change in (
            "archived = 'x', samples = x'', rate = 5", "archived = 'x'", "samples = x''", "archived = 'x', faults = '[1]'",
            "archived = 'x', samples = x'', time_80_to_100 = 1",
        ):  # fmt: skip
            with pytest.raises(sqlite3.IntegrityError, match=GUARD_WORDS):
                other.execute(f"UPDATE trace SET {change}")
        with pytest.raises(sqlite3.IntegrityError, match=GUARD_WORDS):
            other.execute("DELETE FROM trace")
    with demo.session() as session:
        from reckoner.shop.runs import signing
        from tests.support.runs import later

        run_id = session.scalar(select(Observation.series_id).join(Trace).limit(1))
        run_id = session.connection().exec_driver_sql(f"SELECT run_id FROM series WHERE id = {run_id}").scalar()
        signing.sign(session, run_id, later(act, 2))
    with closing(sqlite3.connect(demo.path)) as other:
        other.execute("UPDATE trace SET archived = 'wrong', samples = x'' WHERE id = (SELECT min(id) FROM trace)")
        with pytest.raises(sqlite3.IntegrityError, match=GUARD_WORDS):  # and never a second time
            other.execute("UPDATE trace SET archived = 'other' WHERE archived = 'wrong'")
        other.commit()
    with demo.session() as session:
        found = [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)]
    assert [f.what for f in found] == [f"run {run_id} of HC-0417"]


KILLED = """
import os, signal, sys
from pathlib import Path
from tests.support.clock import here
from reckoner.store import archive, files
from reckoner.store.database import Database
from reckoner.shop.records.storage import archive_old
put = files.put_in_place
def before(made, path): os.kill(os.getpid(), signal.SIGKILL)
def after(made, path):
    put(made, path)
    os.kill(os.getpid(), signal.SIGKILL)
files.put_in_place = {"before": before, "after": after}[sys.argv[2]]
database = Database(Path(sys.argv[1]))
with database.session() as session:
    archive_old(session, here(2029, 1, 1), 1)
"""


@pytest.mark.parametrize("moment", ["before", "after"])
def test_a_kill_while_traces_are_put_away_loses_none(traced, act, demo_folder, moment):
    demo, series = traced
    with demo.session() as session:
        rule(session, act)
        before = [list(p.samples) for p in kept_pulls(reader_of(session), series)]
    demo.close()
    done = subprocess.run([sys.executable, "-c", KILLED, str(demo_folder), moment], check=False)
    assert done.returncode == -signal.SIGKILL
    database = Database(demo_folder)
    with database.session() as session:
        assert [list(p.samples) for p in kept_pulls(reader_of(session), series)] == before
        assert session.scalar(select(Trace.archived).limit(1)) == ""
        put = archive_old(session, years_on(act), 1)
        assert len(archives(demo_folder)) == (1 if moment == "before" else 2)
        assert put.count == 3
    database.close()


def test_a_folder_that_cannot_be_written_keeps_every_trace_where_it_is(traced, act, demo_folder):
    demo, series = traced
    (demo_folder / FOLDER).write_text("a file stands where the folder should")
    with demo.session() as session:
        rule(session, act)
    with pytest.raises(Exception, match="could not be saved"), demo.session() as session:
        archive_old(session, years_on(act), 1)
    with demo.session() as session:
        assert all(len(p.samples) == len(RAMP) and not p.gone for p in kept_pulls(reader_of(session), series))


def test_an_archive_that_was_changed_is_not_believed_and_one_that_reads_back_otherwise_not_trusted(
    traced, act, demo_folder, monkeypatch
):
    demo, series = traced
    with demo.session() as session:
        rule(session, act)
    with monkeypatch.context() as patch, pytest.raises(ArchiveRefused, match="nothing was put away"):
        patch.setattr(zipfile.ZipFile, "read", lambda _self, _name: b"otherwise")
        with demo.session() as session:
            archive_old(session, years_on(act), 1)
    with demo.session() as session:
        assert reader_of(session).value("SELECT sum(length(samples)) FROM trace") == 3 * RAMP.nbytes
        archive_old(session, years_on(act), 1)
    path = archives(demo_folder)[0]
    with zipfile.ZipFile(path) as archive:
        held = {name: archive.read(name) for name in archive.namelist()}
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in held.items():
            archive.writestr(name, (RAMP * 2).tobytes() if name.endswith(".f32") else data)
    with demo.session() as session:
        seen = kept_pulls(reader_of(session), series)
        assert [(len(pull.samples), "in none of the archives" in pull.gone) for pull in seen] == [(0, True)] * 3


def test_the_command_archives_and_packs(traced, act, demo_folder):
    demo, _series = traced
    with demo.session() as session:
        rule(session, act)
        old = session.get_one(Observation, session.scalar(select(Trace.observation_id).limit(1)))
    demo.close()
    assert old.at.date() == TODAY
    with closing(sqlite3.connect(demo_folder / FILE)) as raw:  # pages that stood for something and are free now
        raw.execute("CREATE TABLE filler AS SELECT zeroblob(200000) AS empty")
        raw.execute("DROP TABLE filler")
        raw.commit()
    size = os.path.getsize(demo_folder / FILE)
    result = CliRunner().invoke(make_command(lambda _o: 0), ["archive", "--data", str(demo_folder), "--as", "RK"])
    assert result.exit_code == 0, result.output
    assert f"takes {os.path.getsize(demo_folder / FILE)} bytes" in result.output
    assert os.path.getsize(demo_folder / FILE) < size


def test_of_an_archive_no_more_is_unpacked_than_a_trace_may_have_and_a_damaged_one_hides_no_other(
    tmp_path, monkeypatch
):
    monkeypatch.setattr("reckoner.store.archive.MOST_SAMPLES", 4000)
    (tmp_path / FOLDER).mkdir()

    def kept(name, samples):
        with zipfile.ZipFile(tmp_path / FOLDER / name, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("1.f32", samples)
        return hashlib.sha256(samples).hexdigest()

    bomb = kept("traces-2026-02-02.zip", bytes(4001))
    assert samples_in(tmp_path, {1: bomb}) == {}
    whole = kept("traces-2026-01-01.zip", bytes(3999))
    damaged = tmp_path / FOLDER / "traces-2026-03-03.zip"
    damaged.write_bytes((tmp_path / FOLDER / "traces-2026-01-01.zip").read_bytes().replace(b"\x08\x00", b"\x63\x00"))
    assert samples_in(tmp_path, {1: whole, 2: bomb}) == {1: bytes(3999)}
