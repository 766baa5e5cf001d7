"""The command as a person runs it: sentences and exit statuses, never a traceback."""

import os
import sqlite3
import subprocess
import sys

import platformdirs
import pytest

from reckoner.cli.options import default_folder, default_station
from reckoner.core.errors import InputRefused
from reckoner.shop.people.seals import set_passphrase
from reckoner.store.database import FILE

OURS = "import sys; from reckoner.__main__ import main; sys.exit(main())"


IN_PARTS = "import reckoner.cli.verify as v; v.LINKS, v.RUNS = 150, 40\n"
"""So that a small database is checked as a large one is: parts of it in processes of their own."""


def reckoner(*arguments, script=OURS, **environment):
    return subprocess.run(
        [sys.executable, "-c", script, *arguments], capture_output=True, text=True, env={**os.environ, **environment}
    )


@pytest.mark.parametrize("parts", ["", IN_PARTS], ids=["at once", "in parts"])
def test_the_records_are_walked_and_a_change_is_named(demo_folder, demo, parts):
    script = f"{parts}{OURS}"
    whole = reckoner("verify", "--records", "--data", str(demo_folder), script=script)
    assert whole.returncode == 0
    link = whole.stdout.split("the newest is ")[1].split(". Everything")[0]
    assert reckoner("verify", "--noted", link, "--data", str(demo_folder)).returncode == 0
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("DROP TRIGGER guard_audit_update")
        connection.execute("UPDATE audit SET detail = 'otherwise' WHERE id = 3")
    connection.close()
    changed = reckoner("verify", "--records", "--data", str(demo_folder), script=script)
    assert changed.returncode == 1
    assert changed.stdout.count("\n") == 2  # what is wrong once, and how many links were walked
    links = whole.stdout.split(" ")[0]
    assert changed.stdout.splitlines()[-1].startswith(f"{links} links walked")
    later = reckoner("verify", "--records", "--after", links, "--data", str(demo_folder), script=script)
    assert (later.returncode, later.stdout.split(";")[0]) == (0, f"0 links walked after {links}")
    assert "audit line 3: signed the run, HC-" in changed.stdout
    assert "it was changed afterwards" in changed.stdout
    wrong = reckoner("verify", "--noted", link[:-1] + "g", "--data", str(demo_folder))
    assert (wrong.returncode, wrong.stdout) == (2, "")
    assert "is no link" in wrong.stderr


def test_a_damaged_index_is_named_before_the_chain_is_walked(demo_folder, demo):
    demo.close()
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("PRAGMA writable_schema = ON")
        place = connection.execute("SELECT rootpage FROM sqlite_master WHERE name = 'ix_run_tool_id'").fetchone()
        connection.execute(
            "UPDATE sqlite_master SET sql = replace(sql, 'tool_id)', 'person_id)') WHERE name = 'ix_run_tool_id'"
        )
    connection.close()
    assert place is not None
    told = reckoner("verify", "--records", "--data", str(demo_folder))
    assert told.returncode == 1, told.stderr
    assert told.stdout.startswith("The file itself: row ")
    assert "index ix_run_tool_id" in told.stdout.splitlines()[0]


def test_records_are_walked_beside_whoever_works(demo_folder, demo):
    """Neither waits for the other: a reading is not refused because somebody verifies."""
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("BEGIN IMMEDIATE")
        connection.execute("UPDATE tool SET place = 'elsewhere'")
        assert reckoner("verify", "--records", "--data", str(demo_folder)).returncode == 0
        connection.rollback()
    connection.close()


def test_signed_runs_are_recomputed_in_parts_as_at_once(demo_folder, demo):
    whole = reckoner("verify", "--runs", "--data", str(demo_folder))
    assert whole.returncode == 0
    assert reckoner("verify", "--runs", "--data", str(demo_folder), script=f"{IN_PARTS}{OURS}").stdout == whole.stdout
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("DROP TRIGGER guard_point_result_update")
        wrong = connection.execute("SELECT max(id) FROM point_result").fetchone()[0]
        connection.execute("UPDATE point_result SET worst = worst + 0.001 WHERE id IN (1, ?)", (wrong,))
    connection.close()
    told = reckoner("verify", "--runs", "--data", str(demo_folder), script=f"{IN_PARTS}{OURS}")
    assert told.returncode == 1
    assert sum("worst" in line for line in told.stdout.splitlines()) == 2


@pytest.mark.parametrize("parts", ["", IN_PARTS], ids=["at once", "in parts"])
def test_damaged_values_are_said_as_damage(demo_folder, demo, parts):
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.executescript("DROP TRIGGER guard_signature_update; DROP TRIGGER guard_run_facts_update;")
        connection.execute("UPDATE signature SET at = 'someday' WHERE id = 3")
    connection.close()
    said = reckoner("verify", "--runs", "--data", str(demo_folder), script=f"{parts}{OURS}")
    assert (said.returncode, "Traceback" in said.stderr) == (2, False)
    assert '"someday" where a time is kept: it is damaged' in said.stderr
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("UPDATE signature SET at = '2026-01-02 03:04:05.000000', due = '2026-02-30' WHERE id = 3")
    connection.close()
    assert (
        '"2026-02-30" where a date is kept'
        in reckoner("verify", "--runs", "--data", str(demo_folder), script=f"{parts}{OURS}").stderr
    )
    with sqlite3.connect(demo_folder / FILE) as connection:
        connection.execute("UPDATE signature SET due = NULL WHERE id = 3")
        connection.execute("UPDATE run_facts SET document = substr(document, 1, 90)")
    connection.close()
    assert "cannot be read" in reckoner("verify", "--runs", "--data", str(demo_folder), script=f"{parts}{OURS}").stderr


def test_who_does_it_is_named_and_proved(demo_folder, demo, act, tmp_path):
    file = tmp_path / "more.toml"
    file.write_text('[[people]]\ninitials = "N. N."\nname = "N. Norn"\n', encoding="utf-8")
    words = "four wrenches and a rope"
    with demo.session() as session:
        set_passphrase(session, act.person_id, words, act)
    demo.close()

    def importing(*who, typed=""):
        command = [sys.executable, "-c", OURS, "import", str(file), "--data", str(demo_folder), *who]
        return subprocess.run(command, capture_output=True, text=True, input=typed)

    for who, typed, said in (
        ((), "", "one of R. K., M. T., A. V."),
        (("--as", "X. Y."), "", 'nobody here has the initials "X. Y."'),
        (("--as", "rk"), "a wrong one\n", "is not the passphrase of R. K."),
        (("--as", "rk"), "", "has a passphrase: type it"),
    ):
        told = importing(*who, typed=typed)
        assert (told.returncode, said in told.stderr) == (2, True), told.stderr
    assert importing("--as", "rk", typed=f"{words}\n").stdout.startswith("Added 1 person")
    with sqlite3.connect(demo_folder / FILE) as connection:
        lines = connection.execute("SELECT action, person_id FROM audit ORDER BY id DESC LIMIT 4").fetchall()
    connection.close()
    assert ("imported more.toml", 1) in lines
    again = [sys.executable, "-c", OURS, "unlock", "--as", "rk", "--data", str(demo_folder)]
    told = subprocess.run(again, capture_output=True, text=True)
    assert (told.returncode, "That is what the register says already" in told.stderr) == (2, True)  # none is asked for
    assert ("typed a wrong passphrase", 1) in lines


def test_what_wants_a_database_makes_none(tmp_path):
    for command in (["unlock"], ["archive"], ["rebuild"], ["verify", "--records"]):
        told = reckoner(*command, "--data", str(tmp_path / "new"))
        assert (told.returncode, "there is no database in" in told.stderr) == (2, True), told.stderr
        assert not (tmp_path / "new" / FILE).exists()


def test_a_fault_of_ours_is_logged_and_apologised_for(tmp_path):
    broken = "import reckoner.cli.verify as v; v._pack = lambda: 1 / 0; " + OURS
    said = reckoner("verify", script=broken, XDG_STATE_HOME=str(tmp_path))
    assert said.returncode == 1
    assert said.stderr.count("\n") == 1
    assert str(tmp_path / "reckoner" / "reckoner.log") in said.stderr
    assert "ZeroDivisionError" in (tmp_path / "reckoner" / "reckoner.log").read_text()


def test_a_login_without_a_home_names_its_folder(tmp_path, monkeypatch):
    for name in ("user_data_dir", "user_config_dir"):
        monkeypatch.setattr(platformdirs, name, lambda _app: "~/.local/reckoner")  # what it says when there is no home
    with pytest.raises(InputRefused, match="no home folder; name one for the data with --data FOLDER"):
        default_folder()
    assert default_station(tmp_path) == tmp_path / "station.json"


@pytest.mark.parametrize(
    ("words", "status", "said"),
    [
        (["--demo", "--today", "nonsense"], 2, '"nonsense" is not a date; write it as 2026-11-24'),
        (["--demo"], 1, "There is no display here"),
        (["--demo", "--today", "2026-11-24"], 1, "There is no display here"),
    ],
)
def test_without_a_display_the_window_is_refused_with_a_sentence(words, status, said, tmp_path):
    blind = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    blind["XDG_DATA_HOME"] = str(tmp_path)
    done = subprocess.run([sys.executable, "-m", "reckoner", *words], env=blind, capture_output=True, text=True)
    assert done.returncode == status
    assert said in done.stderr
