"""Whatever is changed, taken away or put in past the shop is found by walking the chain."""

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.records.checking import CheckFinding, ProjectionFault
from reckoner.shop.runs import opening, signing
from reckoner.shop.runs.loading import load
from reckoner.shop.words.results import finding_sentence
from reckoner.store import chain
from reckoner.store.chain import FORMS, NEWEST, Breach
from reckoner.store.migrate import record_tables, standing_guards
from reckoner.store.schema import Base, Record
from reckoner.store.terms import LinkKind
from tests.support.runs import outside, tool_id

PARTS = {part.table: part for parts in FORMS[NEWEST].values() for part in parts}


@pytest.fixture
def told(demo, act):
    """The demo after a bad run of HC-0417 that held it, as a database without its guards, in a transaction that is undone."""
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        signing.sign(session, run.id, act)
    with demo.engine.connect() as connection:
        connection.connection.driver_connection.execute("PRAGMA foreign_keys = OFF")
        connection.begin()
        for name in standing_guards(connection):
            connection.exec_driver_sql(f"DROP TRIGGER {name}")
        yield connection


def findings(connection):
    return [one for one in checking.walk(Session(connection)) if isinstance(one, CheckFinding)]


UNLINKED = {"chain_link", "content"}
"""The links themselves, and contents: each is named by its digest, which stands in a version of its attachment."""


def test_the_newest_form_covers_every_column_of_every_record():
    owners = {"run_id", "series_id", "observation_id", "signature_id", "certificate_id", "cross_run_id"}
    owners |= {
        "event_id",
        "outside_result_id",
        "archived",
    }  # the last stands for the samples that it was made of
    for table in record_tables():
        columns = {c.name for c in Base.metadata.tables[table].columns}
        if table not in UNLINKED:
            assert columns - set(PARTS[table].names) <= (
                owners - {"cross_run_id"} if table == "cross_check" else owners
            ), table
            assert set(PARTS[table].names) <= columns, table
    assert set(PARTS) == set(record_tables()) - UNLINKED
    assert all(issubclass(m.class_, Record) for m in Base.registry.mappers if m.local_table.name in chain.COMES_WITH)


def test_what_the_shop_writes_fits_the_chain(told):
    assert findings(told) == []
    assert chain.newest(told).kind is LinkKind.AUDIT


RARE = {
    "strike": "(observation_id, at, person_id, reason) SELECT max(id), '2026', 1, 'why' FROM observation",
    "kept_reading": "(observation_id, at, person_id, why, whose) "
    "SELECT max(id), '2026', 1, 'stands-apart', 'tool' FROM observation",
    "trace": "(observation_id, rate, samples, faults) SELECT max(id), 1000, x'00', '[]' FROM observation",
    "adjustment": "(run_id, at, person_id, begun, target, direction, note) SELECT max(id), '', 1, 1, 4.0, 'cw', '' FROM run",
    "characterisation": "(run_id, at, target) SELECT max(id), '2026', 40.0 FROM run",
    "abandonment": "(run_id, at, person_id, reason) SELECT max(id), '2026', 1, 'why' FROM run",
    "certificate_withdrawal": "(certificate_id, at, person_id, reason) SELECT max(id), '2026', 1, 'why' FROM certificate",
    "cross_run": "(reference_id, at, person_id, by, against, detail) VALUES (1, '2026', 1, 'meter', 'PM-1', '{}')",
    "cross_reading": "(cross_run_id, at, person_id, target, indicated, actual, uncertainty) "
    "SELECT max(id), '2026', 1, 4.0, 4.0, 4.0, 0.01 FROM cross_run",
    "cross_strike": "(cross_reading_id, at, person_id, reason) SELECT max(id), '2026', 1, 'why' FROM cross_reading",
    "cross_check": "(reference_id, at, person_id, against, indicated, actual, note, cross_run_id) "
    "SELECT 1, '2026', 1, 'PM-1', 4.0, 4.0, '', max(id) FROM cross_run",
    "beam_scale": "(tool_id, at, person_id, document) VALUES (1, '2026', 1, '{}')",
    "beam_repeat": "(beam_scale_id, at, person_id, mark, read) SELECT max(id), '2026', 1, 4.0, 4.0 FROM beam_scale",
    "run_sides": "(run_id, document) SELECT max(id), '{}' FROM run",
    "signing_key": "(person_id, at, salt, cost, public, set_by_id, beside_id) "
    "VALUES (1, '2026', x'00', 1, x'00', 1, 2)",
    "passphrase_try": "(audit_id, person_id, at, was_right) SELECT max(id), 1, '2026', 0 FROM audit",
    "loan_setting": "(event_id, job, joint, torque_set, factor, adapter, low, high) "
    "SELECT max(id), '', '', 4.0, 1.0, '', 3.0, 5.0 FROM tool_event",
    "trip": "(event_id, fee, freight, check_run_id) SELECT max(id), 1.0, 1.0, 1 FROM tool_event",
    "outside_result": "(tool_id, sequence, at, number, laboratory, issued, state, coverage_factor, note, digest) "
    "VALUES (1, 999, '2026', 'L-1', 'lab', '2026-01-01', 'inside', 2.0, '', '')",
    "outside_point": '(outside_result_id, as_left, direction, target, deviation, expanded_uncertainty, "limit") '
    "SELECT max(id), 0, 'cw', 4.0, 0.01, 0.01, 0.04 FROM outside_result",
    "review": "(tool_id, at, person_id, document) VALUES (1, '2026', 1, '{}')",
    "review_mark": "(review_id, line, at, person_id, note) SELECT max(id), 0, '2026', 1, 'why' FROM review",
    "review_close": "(review_id, at, person_id, note) SELECT max(id), '2026', 1, '' FROM review",
    "job_work": "(number, title, at, person_id, document) VALUES ('JC-1', '', '2026', 1, '{}')",
    "job_entry": "(work_id, at, person_id, kind, step, fastener, value, note) "
    "SELECT max(id), '2026', 1, 'done', 0, 1, 4.0, '' FROM job_work",
    "job_close": "(work_id, at, person_id, done, note) SELECT max(id), '2026', 1, 1, '' FROM job_work",
    "seal": "(signature_id, meaning, key_id, mark) SELECT max(id), 'tested', 1, x'00' FROM signature",
}


def test_a_change_of_any_field_of_any_record_changes_what_is_linked(told):
    for table, values in RARE.items():
        told.execute(text(f"INSERT INTO {table} {values}"))
    for kind, parts in FORMS[NEWEST].items():
        record = told.execute(text(f"SELECT max(id) FROM {parts[0].table}")).scalar()
        content = chain.content_of(told, kind, record)
        for part in parts:
            row = dict(zip(part.names, told.exec_driver_sql(part.select((record,))).all()[-1][1:], strict=True))
            for column in part.names[1:]:
                point, kept = told.begin_nested(), row[column]
                other = "otherwise" if isinstance(kept, str | None) else b"x" if isinstance(kept, bytes) else kept + 1
                change = text(f'UPDATE {part.table} SET "{column}" = :other WHERE id = :id')
                told.execute(change, {"id": row["id"], "other": other})
                assert chain.content_of(told, kind, record) != content, (part.table, column)
                point.rollback()


@pytest.mark.parametrize(
    "table", ["run", "observation", "signature", "point_result", "tool_event", "audit", "register_version"]
)
def test_a_row_that_is_gone_is_found(told, table):
    row = told.execute(text(f"SELECT min(id) FROM {table}")).scalar()
    told.execute(text(f"DELETE FROM {table} WHERE id = :id"), {"id": row})
    assert any(f.breach in (Breach.CHANGED, Breach.MISSING) for _, found in chain.walk(told) for f in found)


def test_a_bad_run_turned_good_is_found_with_its_hold_and_its_standing(told):
    told.execute(text("UPDATE signature SET state = 'inside', accepted = 1 WHERE id = (SELECT max(id) FROM signature)"))
    held = told.execute(text("SELECT max(id) FROM tool_event WHERE kind = 'held'")).scalar()
    told.execute(text("DELETE FROM tool_event WHERE id = :id"), {"id": held})
    tool = told.execute(text("SELECT id FROM tool WHERE number = 'HC-0417'")).scalar()
    told.execute(text("UPDATE tool_standing SET held = '' WHERE tool_id = :id"), {"id": tool})
    told.execute(text("UPDATE tool SET place = 'elsewhere' WHERE id = :id"), {"id": tool})
    said = [finding_sentence(f) for f in findings(told)]
    assert any("of HC-0417 is not what was kept" in s for s in said)
    assert any(s.endswith(f"event {held} is gone.") for s in said)
    assert any("HC-0417 stands otherwise" in s for s in said)
    assert any(s.startswith("Tool HC-0417: its row is not") for s in said)


def test_a_whole_run_or_event_without_its_link_is_found_and_so_is_the_gap(told):
    place = told.execute(text("SELECT place FROM chain_link WHERE kind = 'run' ORDER BY place LIMIT 1")).scalar()
    told.execute(text("DELETE FROM chain_link WHERE place = :place"), {"place": place})
    found = findings(told)
    assert [f.wrong for f in found] == [Breach.LINK, Breach.INSERTED]
    assert found[1].what.startswith("run ")


def test_a_forged_release_is_found(told):
    told.execute(
        text(
            "INSERT INTO tool_event (tool_id, sequence, at, kind, note) "
            "SELECT id, 999, '2026-11-24 12:00:00.000000 +0000', 'released', '' FROM tool WHERE number = 'HC-0417'"
        )
    )
    wrong = [f.wrong for f in findings(told)]
    assert Breach.INSERTED in wrong
    assert ProjectionFault.STANDING in wrong


def test_a_chain_cut_short_or_made_anew_is_known_by_the_link_noted_outside(told):
    newest = chain.newest(told)
    session = Session(told)
    assert checking.noted(session, newest.words) == ""
    told.execute(text("DELETE FROM audit WHERE id = (SELECT max(id) FROM audit)"))
    told.execute(text("DELETE FROM chain_link WHERE place = :place"), {"place": newest.place})
    assert findings(told) == []  # nothing inside can tell
    assert "cut off" in checking.noted(session, newest.words)
    told.execute(text("UPDATE audit SET detail = 'forged' WHERE id = (SELECT min(id) FROM audit)"))
    told.execute(text("DELETE FROM chain_link"))
    chain.extend(told, chain.unlinked(told))
    chain.extend(told, [(LinkKind.AUDIT, newest.row_id)])
    assert findings(told) == []
    told.execute(text("UPDATE chain_link SET place = :place WHERE place = 1"), {"place": newest.place})
    assert "made anew" in checking.noted(session, newest.words)
    for note in ("", "412", "x 3f9a27c188b0e1d2", "412 zzzz27c188b0e1d2"):
        with pytest.raises(ShopRefused, match="is no link"):
            checking.noted(session, note)


def test_a_run_that_is_given_up_is_linked_with_its_readings(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        opening.give_up(session, run.id, "the wrench is wanted", act)
    with demo.session() as session:
        assert chain.link_of(session.connection(), LinkKind.RUN, run.id) is not None


def test_a_signed_run_shows_its_link(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        assert load(session, run.id).signature is None
        signed = signing.sign(session, run.id, act)
    with demo.session() as session:
        link = chain.link_of(session.connection(), LinkKind.RUN, run.id)
        assert signed.signature.link == load(session, run.id).signature.link == link.words


LAST = "place = (SELECT max(place) FROM chain_link)"


@pytest.mark.parametrize(
    ("change", "found"),
    [
        (
            f"UPDATE chain_link SET digest = '{chain.BEGINNING}' WHERE {LAST}",
            Breach.LINK,
        ),
        (f"UPDATE chain_link SET place = place + 1 WHERE {LAST}", Breach.LINK),
        (f"UPDATE chain_link SET kind = 'nothing' WHERE {LAST}", Breach.LINK),
        ("INSERT INTO open_run (tool_id, run_id) SELECT tool_id, max(id) FROM run", ProjectionFault.OPEN_RUN),
        ("DELETE FROM open_loan", ProjectionFault.STANDING),
        ("DELETE FROM history_place WHERE id = (SELECT max(id) FROM history_place)", ProjectionFault.STANDING),
        ("UPDATE tool SET version = version + 1 WHERE number = 'HC-0113'", ProjectionFault.REGISTER),
        ("UPDATE tool_listing SET words = 'other' WHERE number = 'HC-0113'", ProjectionFault.LISTING),
        ("DELETE FROM tool_listing WHERE number = 'HC-0113'", ProjectionFault.LISTING),
        ("UPDATE tool_listing SET lent = 1 WHERE number = 'HC-0113'", ProjectionFault.LISTING),
    ],
)
def test_each_thing_that_is_wrong_by_itself_is_found(told, change, found):
    told.execute(text(change))
    assert found in {one.wrong for one in findings(told)}
