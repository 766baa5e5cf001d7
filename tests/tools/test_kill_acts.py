"""What the killing tool looks for is found where it is, and a kill of some acts leaves nothing wrong: a sample."""

import sqlite3
import sys
from pathlib import Path

sys.path.append(str(Path(__file__).parents[2] / "tools"))
from kill_acts import ACTS, fresh, main, prepare, wrong_with

from reckoner.store.database import FILE


def test_a_sample_of_kills_leaves_nothing_wrong(capsys):
    assert main(1, ["signing", "lending", "job card", "mid-run"]) == 0, capsys.readouterr().out
    assert capsys.readouterr().out.count(" 0 wrong") == 4


def test_what_was_told_and_is_not_there_and_what_was_changed_is_found(tmp_path):
    prepare(tmp_path)
    act, folder = ACTS["signing"], tmp_path / "shop"
    before = fresh(act, folder, tmp_path)
    assert wrong_with(act, folder, tmp_path, [], before) == []
    assert "1 were told as kept, 0 are there" in wrong_with(act, folder, tmp_path, ["done"], before)[0].replace(
        "True", "1"
    )
    with sqlite3.connect(folder / FILE) as connection:
        connection.execute("UPDATE tool SET place = 'elsewhere' WHERE id = 3")
    connection.close()
    assert "REGISTER" in wrong_with(act, folder, tmp_path, [], before)[0]
