"""What is changed past the program is named, whatever table it stands in, and never ends the check itself."""

import hashlib

import pytest
from sqlalchemy import text
from sqlalchemy.orm import Session

from reckoner.shop.records import checking
from reckoner.shop.using.cards import card_lines
from reckoner.shop.using.working import begin
from reckoner.shop.words.results import finding_sentence
from reckoner.store.migrate import standing_guards
from reckoner.store.reader import reader_of
from tests.support.runs import outside, tool_id_in


@pytest.fixture
def edited(demo, act):
    """Make raw edits, with an open run and an open job there; the sentences of what is found."""
    with demo.session() as session:
        outside(session, tool_id_in(session, "HC-0417"), act)
        begin(session, card_lines(reader_of(session))[0].card, act)
        data = b"a certificate"
        digest = hashlib.sha256(data).hexdigest()
        session.execute(text("INSERT INTO content (digest, data) VALUES (:d, :b)"), {"d": digest, "b": data})
    with demo.engine.connect() as connection:
        connection.begin()
        for name in standing_guards(connection):
            connection.exec_driver_sql(f"DROP TRIGGER {name}")
        connection.exec_driver_sql("PRAGMA defer_foreign_keys = ON")

        def edit(*statements):
            for statement in statements:
                connection.exec_driver_sql(statement)
            session = Session(connection)
            return [finding_sentence(f) for f in checking.walk(session) if isinstance(f, checking.CheckFinding)]

        yield edit


NEWEST_RUN = "(SELECT max(id) FROM run)"


@pytest.mark.parametrize(
    ("statements", "says"),
    [
        ((), None),
        (("DELETE FROM tool WHERE number = 'HC-0460'",), "tool"),
        (("DELETE FROM gear WHERE id = (SELECT max(id) FROM gear WHERE kind = 'weight')",), "is gone"),
        (("DELETE FROM job_card WHERE number = 'JC-4'",), "job card"),
        (("DELETE FROM shop",), "is gone"),
        (("UPDATE tool SET removed = 1 WHERE number = 'HC-0460'",), "hc-0460"),
        (("UPDATE tool SET own_mass = 1.9 WHERE number = 'HC-0460'",), "hc-0460"),  # never set since it was brought in
        (("UPDATE person SET left_on = '2026-01-01' WHERE id = 2",), "person"),
        (("UPDATE shop SET demands_passphrase = 1",), "shop"),
        (("UPDATE content SET data = x'00'",), "the file with the digest"),
        (("INSERT INTO job_card (version, removed, number, title, place, document) VALUES (1, 0, 'JC-X', '', '', '{}')",),
         "no version tells of it"),
        (("DELETE FROM open_run",
          f"DELETE FROM observation WHERE series_id IN (SELECT id FROM series WHERE run_id = {NEWEST_RUN})",
          *(f"DELETE FROM {t} WHERE run_id = {NEWEST_RUN}" for t in (
              "series", "zero_check", "exercise_pull", "room_reading", "inspection_line", "set_up", "run_facts")),
          f"DELETE FROM run WHERE id = {NEWEST_RUN}"), "is gone"),
        (("UPDATE observation SET torque = torque * 1.01 WHERE id = (SELECT max(id) FROM observation)",),
         "is not what was kept"),
        (("DELETE FROM observation WHERE id = (SELECT max(id) FROM observation)",), "is gone"),
        (("DELETE FROM job_work WHERE id = (SELECT max(id) FROM job_work)",), "is gone"),
        (("UPDATE job_entry SET value = 99 WHERE id = 1",), "is not what was kept"),
        (("UPDATE register_version SET after = '{\"a\":1' WHERE id = 3",), "cannot be read"),
        (("UPDATE tool SET model_id = 999 WHERE number = 'HC-0460'",), "names a row of tool_model that is gone"),
        (("UPDATE tool_model SET mechanism = 'magic' WHERE id = 1",), "cannot be read"),
        (("UPDATE signature SET state = 'x' WHERE id = 1",), "cannot be read"),
    ],
)  # fmt: skip
def test_a_raw_edit_is_named_and_never_ends_the_check(edited, statements, says):
    found = edited(*statements)
    if says is None:
        assert found == []
    else:
        assert any(says in sentence.lower() for sentence in found), found
