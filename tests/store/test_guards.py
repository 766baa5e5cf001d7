"""The database itself refuses to change or remove a record, whoever asks."""

import sqlite3

import pytest

from reckoner.store.database import FILE
from reckoner.store.migrate import GUARD_WORDS, record_tables


def test_no_record_is_updated_or_deleted_even_by_hand(demo_folder, demo, act):
    with sqlite3.connect(demo_folder / FILE) as connection:
        filled = [t for t in record_tables() if connection.execute(f"SELECT count(*) FROM {t}").fetchone()[0]]
        for table in filled:
            for statement in (f"UPDATE {table} SET id = id", f"DELETE FROM {table}"):
                with pytest.raises(sqlite3.IntegrityError, match=f"{GUARD_WORDS}: {table}"):
                    connection.execute(statement)
    connection.close()
    assert {"run", "run_facts", "observation", "signature", "point_result", "tool_event"} <= set(filled)


def test_what_is_no_record_can_be_changed(demo_folder, demo):
    with sqlite3.connect(demo_folder / FILE) as connection:
        for table in ("tool", "person", "reference", "tool_standing", "open_run"):
            connection.execute(f"UPDATE {table} SET id = id")
    connection.close()
