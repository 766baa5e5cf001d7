"""What is proposed, and how a proposal is changed."""

import pytest

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import N_M, unit_named
from reckoner.shop.runs.loading import earlier_series
from reckoner.ui.bench.setup.startform import read_points
from tests.support.hands import ENTER, WAIT, click, opened, press


def test_what_is_proposed_changes_with_the_kind_of_run(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    bench = opened(qtbot, window, "HC-0417", demo)
    start = bench.panels.start
    click(start.kinds.chips["check"])
    qtbot.waitUntil(lambda: start.form.rule_sets.one == "quick-check", timeout=WAIT)
    assert start.form.points.text.startswith("120")
    click(start.kinds.chips["characterise"])
    qtbot.waitUntil(lambda: start.form.effects.isVisible(), timeout=WAIT)
    assert start.form.points.text.startswith("40")
    click(start.kinds.chips["full"])
    qtbot.waitUntil(lambda: start.form.points.text.startswith("40, 120, 200"), timeout=WAIT)
    click(start.form.modes.chips["peak"])
    assert "past the signal" in start.form.warnings_label.text()
    start.form.points.line.setText("forty")
    press(window, ENTER)
    assert "is not a torque" in start.form.points.hint.text()
    assert bench.run is None


@pytest.mark.parametrize("number", ["HC-0131", "HC-0340"])
def test_a_proposal_taken_as_it_stands_needs_no_reason_and_keeps_the_points_of_before(
    qtbot, open_window, demo_folder, demo, number
):
    """Points such as 1.2 N·m, or in pound-force feet, come back from their text in another last bit."""
    window = open_window(demo_folder)
    bench = opened(qtbot, window, number, demo)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    with demo.session() as session:
        before = earlier_series(session, bench.run.tool.id, bench.run.opened)
    assert [s.target for s in bench.run.series] == [e.target for e in before]


@pytest.mark.parametrize(
    ("text", "unit", "points"),
    [
        ("40, 120, 200 N·m", "N.m", (40, 120, 200)),
        ("200;40", "N.m", (40, 200)),
        ("2,5 / 5 N.m", "N.m", (2.5, 5)),
        ("30 lbf.ft, 100", "lbf.ft", (40.6745, 135.5818)),
    ],
)
def test_points_are_read_as_they_are_written(text, unit, points):
    assert read_points(text, unit_named(unit)) == pytest.approx(points, rel=1e-5)
    for bad in ("", "x", "40, y"):
        with pytest.raises(InputRefused):
            read_points(bad, N_M)
