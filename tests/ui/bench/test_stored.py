"""Values that a meter or a tool has stored become the readings of a run: all of a file, or nothing of it."""

import pytest

from reckoner.core.quantities.units import Kind, unit_named
from reckoner.formats.stored_values import read_values
from reckoner.formats.tables import TableRefused
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import taking
from reckoner.store.terms import Source
from tests.support.hands import WAIT, click, settle
from tests.support.runs import prepared, tool_id

N_M, FOOT = (unit_named(name, Kind.TORQUE) for name in ("N.m", "lbf.ft"))
DOWNLOAD = (
    "No.;Date;Peak [N.m];Display [lbf.ft];Note\n"
    "1;2026-11-24;39,6;29.3;\n2;2026-11-24;39,5;29.2;second\n3;2026-11-24;-39,7;29.4;\n4;2026-11-24;;;gap\n"
    "5;2026-11-24;39,4;29.1;\n6;2026-11-24;39,6;29.3;\n7;2026-11-24;118,9;88.0;\n"
)


@pytest.fixture
def run(demo, act):
    with demo.session() as session:
        return prepared(session, tool_id(demo, "HC-0417"), act)


@pytest.fixture
def download(tmp_path):
    path = tmp_path / "memory.csv"
    path.write_text(DOWNLOAD, encoding="utf-8")
    return path


def test_columns_of_torques_are_found_with_their_units(download, tmp_path):
    found = {column.name: column for column in read_values(download, N_M)}
    assert set(found) == {"No.", "Peak [N.m]", "Display [lbf.ft]"}  # no dates, no notes
    peak = found["Peak [N.m]"]
    assert (peak.unit, [line for line, _ in peak.values]) == (N_M, [2, 3, 4, 6, 7, 8])
    assert [round(value, 1) for _, value in peak.values] == [
        39.6,
        39.5,
        39.7,
        39.4,
        39.6,
        118.9,
    ]  # turned the other way: a torque
    assert found["Display [lbf.ft]"].values[0][1] == pytest.approx(29.3 * FOOT.size)
    assert found["No."].unit is None
    empty = tmp_path / "words.csv"
    empty.write_text("a;b\nx;y\n")
    with pytest.raises(TableRefused, match="no column of it holds torques"):
        read_values(empty, N_M)


def test_all_of_a_file_is_taken_or_nothing(demo, act, run):
    good = [(2 + i, 39.5 + 0.01 * i) for i in range(5)] + [(8, 118.9)]
    assert taking.fills(run, 6) == ((40.0, 5), (120.0, 1))
    assert sum(count for _, count in taking.fills(run, 99)) == 15
    with demo.session() as session:
        taken = taking.take(session, run, good, (), act)
        assert [len(s.pairs) for s in taken.found] == [5, 1, 0]
        assert {o.source for s in taken.found for o in s.observations} == {Source.STORED}
    with demo.session() as session, pytest.raises(ShopRefused, match="The run went on meanwhile"):
        taking.take(session, run, [(2, 119.0)], (), act)  # a second press: the run that was looked at is gone
    with (
        demo.session() as session,
        pytest.raises(ShopRefused, match=r"Line 9: 4000 N·m cannot be a pull.*Nothing of the file"),
    ):
        taking.take(session, taken, [(9, 4000.0)], (), act)


def test_a_file_that_is_refused_leaves_the_run_as_it_was(qtbot, at, run, tmp_path):
    window, bench = at(run)
    path = tmp_path / "wrong.csv"
    path.write_text("Peak [N.m]\n39.5\n39.6\n3900\n39.5\n39.4\n")
    stored = bench.panels.pulls.stored
    stored.read(path)
    qtbot.waitUntil(stored.isVisible, timeout=WAIT)
    settle(qtbot, window)
    click(stored.take_button)
    qtbot.waitUntil(lambda: "Line 4" in bench.right.fault.text(), timeout=WAIT)
    assert bench.run.found[0].observations == ()


def test_what_is_stored_is_shown_where_it_goes_and_taken_with_one_click(qtbot, at, run, download):
    window, bench = at(run)
    stored = bench.panels.pulls.stored
    assert not stored.isVisible()
    assert stored.button.isVisible()
    stored.read(download)
    qtbot.waitUntil(stored.isVisible, timeout=WAIT)
    settle(qtbot, window)
    click(stored.meter.chips["1"])
    settle(qtbot, window)
    told = stored.told.text().replace("\u202f", " ")
    assert "read in N·m" in told
    assert "5 at 40 N·m, 1 at 120 N·m" in told
    assert not stored.tool.isVisible()
    click(stored.take_button)
    click(stored.take_button)  # pressed twice, before the first is shown
    qtbot.waitUntil(lambda: len(bench.run.found[1].pairs) == 1 and window.idle, timeout=WAIT)
    settle(qtbot, window)
    assert [len(s.pairs) for s in bench.run.found] == [5, 1, 0]
    assert not stored.isVisible()


def test_where_each_pull_is_two_numbers_both_columns_are_taken_pull_by_pull(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0333"), act)
        with pytest.raises(ShopRefused, match="2 values and the tool's 1"):
            taking.take(session, run, [(2, 40.1), (3, 40.2)], [(2, 40.4)], act)
        taken = taking.take(session, run, [(2, 40.1), (3, 40.2)], [(2, 40.4), (3, 40.6)], act)
        assert [p.tool for p in taken.found[0].pairs] == [40.4, 40.6]
