"""Every step of the bench, walked with Tab: each thing is reached, in sight, and the focus never begins on the rail."""

import pytest
from PyQt6.QtWidgets import QApplication, QLineEdit

from reckoner.shop.runs import adjusting, opening
from reckoner.ui.places import PlaceId
from tests.support.hands import WAIT, click, go, settle
from tests.support.runs import looked_over, outside, prepared, read_all, tool_id
from tests.ui.test_walk import around_the_page, on_rail


def looking_over(session, tool, act):
    return opening.open_run(session, tool, act)


def setting_up(session, tool, act):
    return looked_over(session, opening.open_run(session, tool, act), act)


def deciding(session, tool, act):
    return read_all(session, prepared(session, tool, act), act, 0.99)


def adjusting_it(session, tool, act):
    run = outside(session, tool, act)
    return adjusting.begin(session, run.id, run.series[0].id, act)


@pytest.mark.parametrize(
    ("make", "way"),
    [
        (None, ""), (looking_over, ""), (setting_up, ""), (setting_up, "Weights"), (setting_up, "HS-1"),
        (setting_up, "In line"), (prepared, ""), (deciding, ""), (outside, ""), (adjusting_it, ""),
    ],
)  # fmt: skip
def test_tab_reaches_all_of_a_step_in_sight(qtbot, open_window, demo_folder, demo, act, make, way):
    tool = tool_id(demo, "HC-0125" if way else "HC-0417")
    with demo.session() as session:
        target = {"tool": tool} if make is None else {"run": make(session, tool, act).id}
    window = open_window(demo_folder)
    window.frame.resize(1280, 780)
    go(window, "bench", **target)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.panel is not None and bench.button.isEnabled(), timeout=WAIT)
    settle(qtbot, window)
    if way:
        panel = bench.panels.set_up
        qtbot.waitUntil(lambda: bool(panel.candidates), timeout=WAIT)
        click(next(b for b in panel._choice_group.buttons() if b.accessibleName().startswith(way)))
        settle(qtbot, window)
    qtbot.wait(100)  # laid out
    assert not on_rail(window, QApplication.focusWidget())
    stops = around_the_page(window)
    assert [stop.accessibleName() for stop, seen in stops if not seen] == []
    reached = [stop for stop, _seen in stops]
    typed = [w for w in bench.findChildren(QLineEdit) if w.isVisible() and w.isEnabled()]
    assert [w.accessibleName() for w in typed if w not in reached] == []
    assert bench.button in reached or not bench.button.isEnabled()
