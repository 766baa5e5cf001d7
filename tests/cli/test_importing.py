"""`reckoner import` of a spreadsheet: the window's preview as text, and nothing written before it is agreed to."""

import pytest
from click.testing import CliRunner

from reckoner.cli.main import make_command
from reckoner.cli.version import commit
from reckoner.shop.register.cards import card
from reckoner.store.schema import Tool
from tests.support.runs import tool_id

LIST = (
    'Asset,Description,Range,Cal Date,Cal Due,Status,Colour\n'
    'T-1,3/8" click,15-75,4/1/2026,03/2027,OK,red\n'
    'T-2,dial wrench,60/600,4/1/2026,,out of cal,\n'
    'T-3,click,somewhat,,,,\n'
)  # fmt: skip


@pytest.fixture
def bring(demo_folder, tmp_path):
    """Runs the command on the list; hands back its status and what it said."""
    path = tmp_path / "tools.csv"
    path.write_text(LIST)

    def run(*options, typed=""):
        words = ["import", str(path), "--data", str(demo_folder), *options]
        done = CliRunner().invoke(make_command(lambda _options: 0), words, input=typed, standalone_mode=False)
        return (done.return_value if done.exception is None else str(done.exception)), done.output

    return run


def kept(demo):
    with demo.session() as session:
        return {number for (number,) in session.query(Tool.number).filter(Tool.number.like("T-%"))}


def test_a_spreadsheet_is_shown_row_by_row_and_written_only_where_that_is_agreed_to(bring, demo):
    status, told = bring("--unit", "lbf.ft")
    assert status == 1
    assert "Not used: Colour (red)." in told
    assert 'stays out: last tested: "4/1/2026" can be read two ways' in told
    assert "say --days day-first or --days month-first" in told
    status, told = bring("--unit", "lbf.ft", "--days", "month-first")
    assert (
        "line 2: T-1 · click wrench · 15–75\u202flbf·ft · ⅜ in · last tested 1 Apr 2026, passed · due 31 Mar 2027"
        in told
    )
    assert 'line 4: stays out: range: "somewhat" is not a torque' in told
    assert "Nothing was written. With --yes, 2 tools are brought in." in told
    assert kept(demo) == set()
    status, told = bring("--unit", "lbf.ft", "--days", "month-first", "--yes", "--as", "RK")
    assert (status, "Done: bringing in 2 tools from tools.csv." in told) == (1, True)
    with demo.reading() as reader:
        assert card(reader, tool_id(demo, "T-2")).held == "“out of cal”, says tools.csv"
    status, told = bring("--unit", "lbf.ft", "--days", "month-first", "--yes", "--as", "RK")
    assert "stays out: there is already a tool T-1 in the register" in told
    assert "Done" not in told


def test_who_may_not_bring_in_brings_nothing_in_and_a_wrong_unit_is_named(bring, demo):
    assert "say who does it" in str(bring("--days", "day-first", "--yes")[0]).lower()
    assert "not a unit" in str(bring("--unit", "stone")[0])
    assert kept(demo) == set()


def test_what_runs_is_named_with_its_commit_and_help_answers_to_h(tmp_path):
    run = CliRunner().invoke(make_command(lambda _options: 0), ["--version"])
    assert "SQLite" in run.output
    assert CliRunner().invoke(make_command(lambda _options: 0), ["import", "-h"]).exit_code == 0
    git = tmp_path / ".git"
    (git / "refs" / "heads").mkdir(parents=True)
    (git / "HEAD").write_text("ref: refs/heads/main\n")
    assert commit(tmp_path) == ""
    (git / "packed-refs").write_text("# pack-refs\n1234567890abcdef refs/heads/main\n")
    assert commit(tmp_path) == "1234567890abcdef"
    (git / "refs" / "heads" / "main").write_text("fedcba0987654321\n")
    assert commit(tmp_path) == "fedcba0987654321"
    (git / "HEAD").write_text("00112233\n")
    assert commit(tmp_path) == "00112233"
