"""Two copies of the records held against each other: what each has more, and where they went different ways."""

from contextlib import closing
from datetime import timedelta

import pytest

from reckoner.shop.events.recording import record_event
from reckoner.shop.opening import open_for_a_window
from reckoner.shop.records import checking
from reckoner.shop.records.losses import back_up_unless_older, losing
from reckoner.shop.records.restoring import put_back
from reckoner.shop.using.cards import card_lines
from reckoner.shop.using.working import begin, give_up
from reckoner.store import backup
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.store.schema import Audit
from reckoner.store.terms import EventKind
from tests.support.runs import TODAY, later, outside, tool_id_in


def happened(folder, act, *numbers):
    with closing(Database(folder)) as database, database.session() as session:
        for number in numbers:
            record_event(session, tool_id_in(session, number), EventKind.FELL, "off the gantry", act)


def audit_of(folder, action):
    with closing(Database(folder)) as database, database.session() as session:
        return [line.detail for line in session.query(Audit).filter(Audit.action == action)]


@pytest.fixture
def folder(demo_folder, act):
    with closing(Database(demo_folder)) as database, database.session():
        pass
    return demo_folder


def test_what_went_another_way_is_told_however_much_was_done_since(folder, act, tmp_path):
    daily = tmp_path / "daily"
    daily.mkdir()
    monday, tuesday = daily / "monday.sqlite", daily / "tuesday.sqlite"
    backup.back_up(folder, monday)
    happened(folder, act, "HC-0417", "HC-0418", "HC-0302")
    backup.back_up(folder, tuesday)
    with closing(Database(folder)) as database, database.reading() as reader:
        lost = losing(reader, monday)
        assert lost.words == "It would lose 3 events."
        assert (lost.forked, lost.common.place) == (False, lost.other_end.place)
        assert losing(reader, tuesday).words == "Nothing came since: it would lose nothing."
    kept = put_back(monday, folder, act.at + timedelta(days=1), "R. K.")
    assert kept is not None
    happened(folder, later(act, 30), "HC-0303", "HC-0304", "HC-0311", "HC-0318")  # more of them than were lost
    with closing(Database(folder)) as database, database.reading() as reader:
        ahead = back_up_unless_older(reader, folder, daily, TODAY)
        assert ahead.path == tuesday
        assert "the backup of" in ahead.words
        assert "also has 3 events. The two have gone different ways since link " in ahead.words
        lost = losing(reader, tuesday)
        assert lost.forked
        assert lost.told.startswith("4 events")
    assert not (daily / f"reckoner-{TODAY}.sqlite").exists()
    (line,) = audit_of(folder, "put a backup back")
    assert '"by": "R. K."' in line
    assert '"lost": "3 events"' in line
    assert lost.common.words in line
    with closing(Database(folder)) as database, database.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []


def test_a_job_that_is_over_and_what_is_not_over_yet_are_told_too(folder, act, tmp_path):
    before = tmp_path / "before.sqlite"
    backup.back_up(folder, before)
    with closing(Database(folder)) as database, database.session() as session:
        card = card_lines(reader_of(session))[0].card
        give_up(session, begin(session, card, act), act, "rain")
    with closing(Database(folder)) as database:
        with database.reading() as reader:
            assert losing(reader, before).told == "1 job begun, 1 job ended"
        with database.session() as session:
            run = outside(session, tool_id_in(session, "HC-0417"), act)
            count = sum(len(s.observations) for s in run.all_series)
        with database.reading() as reader:
            assert losing(reader, before).told == f"1 job begun, 1 job ended, {count} readings"


def test_a_restore_that_fails_leaves_all_as_it_was_and_what_a_killed_one_left_is_cleared(folder, act, tmp_path):
    before = tmp_path / "before.sqlite"
    backup.back_up(folder, before)
    happened(folder, act, "HC-0417")

    def fails(_made):
        raise backup.BackupRefused("it fails")

    with pytest.raises(backup.BackupRefused, match="it fails"):
        backup.restore(before, folder, act.at, fails)
    with closing(Database(folder)) as database, database.reading() as reader:
        assert losing(reader, before).told == "1 event"
    assert [p.name for p in folder.iterdir() if p.name.startswith(".")] == []
    left = folder / f"{backup.RESTORING}123"
    left.mkdir()
    (left / "reckoner.sqlite").write_bytes(b"half of it")
    open_for_a_window(folder).close()
    assert not left.exists()
