"""The two-minute check: from the sheet to the sentence in a few keys; and what is said of the tool."""

from dataclasses import replace
from datetime import timedelta

import pytest
from PyQt6.QtCore import Qt
from sqlalchemy import select

from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import adjusting, opening, setting_up, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.outcomes import ConclusionWord, conclude
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import CAME, Step
from reckoner.shop.words.results import came_words
from reckoner.store.schema import RoomReading
from reckoner.store.terms import RoomSource, RunKind
from reckoner.ui.bench.deciding.behind import stages
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, press, pull, settle
from tests.support.runs import closed, later, looked_over, outside, prepared, read, ready, tool_id

CTRL = Qt.KeyboardModifier.ControlModifier


def test_from_the_sheet_to_the_sentence_in_at_most_eight_keys_beside_the_pulls(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "tools", tool=tool_id(demo, "HC-0417"))
    sheet = window.current.sheet
    qtbot.waitUntil(lambda: sheet.number.text() == "HC-0417", timeout=WAIT)
    settle(qtbot, window)
    keys = []

    def key(which, modifier=Qt.KeyboardModifier.NoModifier):
        keys.append(which)
        press(window, which, modifier)
        settle(qtbot, window)

    key(Qt.Key.Key_T, CTRL)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    assert bench.panels.start.kinds.one == "check"
    key(ENTER)
    qtbot.waitUntil(lambda: bench.button.text() == "Nothing wrong", timeout=WAIT)
    key(ENTER)
    assert all(line.fine for line in bench.run.inspection)
    qtbot.waitUntil(lambda: bench.button.text() == "Use PM-5", timeout=WAIT)
    key(ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.EXERCISE, timeout=WAIT)  # room and zero are seen, and not asked
    pulls = 0
    while bench.run.step is not Step.DECIDE:
        before = bench.run.stamp
        if bench.run.step is Step.EXERCISE or bench.run.current is not None:
            pull(qtbot, window, bench)
            pulls += 1
        qtbot.waitUntil(lambda b=before: bench.run.stamp != b or bench.run.step is Step.DECIDE, timeout=WAIT)
    assert pulls == 6  # three releases, three readings
    assert len(keys) <= 8
    words = bench.panels.deciding.sentence.text()
    assert words.split(".")[0] in [says.value for says in ConclusionWord]
    assert bench.panels.deciding.why.text()


def test_at_a_glance_what_is_not_fine_is_looked_at_line_by_line(qtbot, open_window, demo_folder, demo):
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"), kind=RunKind.CHECK)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.button.text() == "Nothing wrong", timeout=WAIT)
    panel = bench.panels.look_over
    assert "; " in panel._means.text()
    click(panel._not_fine)
    assert bench.button.text() == "Fine"
    press(window, ENTER)
    qtbot.waitUntil(lambda: sum(line.fine is True for line in bench.run.inspection) == 1, timeout=WAIT)


def test_a_room_that_was_looked_at_within_the_hour_is_taken_and_told(demo, act):
    wanted, other = tool_id(demo, "HC-0417"), tool_id(demo, "HC-0302")
    with demo.session() as session:
        prepared(session, other, act)  # 21.4 °C there

        def begun(at):
            plan = propose(session, wanted, at.at.date(), RunKind.CHECK).plan
            run = looked_over(session, opening.open_run(session, wanted, at, plan), at)
            return setting_up.choose_reference(session, run.id, 6, "", at)

        soon = replace(act, at=act.at + timedelta(minutes=35))
        run = begun(soon)
        assert (run.room.temperature, run.room.note) == (21.4, "as it was 35 minutes before")
        sources = session.scalars(select(RoomReading.source).where(RoomReading.run_id == run.id)).all()
        assert sources == [RoomSource.EARLIER]
        opening.give_up(session, run.id, "only tried", soon)
        assert begun(later(act, 2)).room is None  # two hours ago is too long


@pytest.mark.parametrize(
    ("factor", "adjustable", "says"),
    [
        (1.0, True, ConclusionWord.FINE),
        (0.975, True, ConclusionWord.LEAVE),
        (0.962, True, ConclusionWord.ADJUST),
        (0.962, False, ConclusionWord.LEAVE),
        (0.90, True, ConclusionWord.ADJUST),
        (0.90, False, ConclusionWord.HOLD),
    ],
)
def test_a_short_run_says_one_of_four_words(demo, act, factor, adjustable, says):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, RunKind.CHECK)
        while run.current:
            run = read(session, run, run.current.target * factor, act)
        run = closed(session, run, act)
        if not adjustable:
            run = replace(run, facts=replace(run.facts, tool=replace(run.tool, adjustment=None)))
        assert conclude(run).says is says
        assert conclude(run).why


def test_a_check_that_is_outside_goes_on_to_a_full_run_with_one_press(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, RunKind.CHECK)
        while run.current:
            run = read(session, run, run.current.target * 0.93, act)
        check = closed(session, run, act)
    window = open_window(demo_folder)
    go(window, "bench", tool=check.tool.id)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    panel = bench.panels.deciding
    assert not panel.adjust.isVisible()
    assert panel.go_on.text() == "Go on as a full run: its readings stay"
    click(panel.go_on)
    qtbot.waitUntil(lambda: bench.run.id != check.id, timeout=WAIT)
    assert (bench.run.kind, bench.run.step) == (RunKind.FULL, Step.AS_FOUND)
    assert sum(len(s.pairs) for s in bench.run.found) == sum(len(s.pairs) for s in check.found)
    settle(qtbot, window)
    assert bench.panels.currentWidget() is bench.panels.pulls


def test_a_short_run_whose_meter_lost_its_zero_says_hold_however_good_the_tool(demo, act):
    with demo.session() as session:
        run = ready(session, tool_id(demo, "HC-0417"), act, RunKind.CHECK)
        while run.current:
            run = read(session, run, run.current.target, act)
        found = conclude(closed(session, run, act, zero_after=2.0))
        assert found.says is ConclusionWord.HOLD
        assert found.why.startswith("nothing was decided")


def test_as_it_came_is_kept_apart_and_never_enters_the_verdict(demo, act):
    """6 % high as it came, 0.4 % after five releases: two stories, and exercise would destroy the first."""
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0417")
        plan = replace(propose(session, wanted, act.at.date()).plan, came=2)
        with pytest.raises(ShopRefused, match="more of them are exercise"):
            opening.open_run(session, wanted, act, replace(plan, came=4))
        run = looked_over(session, opening.open_run(session, wanted, act, plan), act)
        run = setting_up.choose_reference(session, run.id, 6, "", act)
        run = setting_up.record_room(session, run.id, 21.4, 0.46, "", act)
        run = setting_up.record_zero(session, run.id, setting_up.ZeroMoment.BEFORE, 0.0, act)
        assert run.step is Step.AS_IT_CAME
        assert (run.current.phase, run.current.target) == (CAME, 120)
        with pytest.raises(ShopRefused, match="exercise would destroy it"):
            taking.record_exercise(session, run.id, None, act)
        for _ in range(2):
            run = read(session, run, 120 * 1.06, act)
        assert run.step is Step.EXERCISE
        while run.exercising:
            run = taking.record_exercise(session, run.id, None, act)
        while run.current:
            run = read(session, run, run.current.target * 1.004, act)
        run = closed(session, run, act)
        assert came_words(run) == (
            "As it came: Clicks 6.0\u202f% above its setting at 120\u202fN·m; "
            "after 5 releases: clicks 0.4\u202f% above its setting"
        )
        assert judged(run).verdict.accepted is True
        assert {s.phase for s in run.series} == {run.found[0].phase}


def test_before_and_after_stand_side_by_side_with_what_was_done_between(qtbot, open_window, demo_folder, demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        run = adjusting.begin(session, run.id, run.series[0].id, act)
        run = adjusting.turn(session, run.id, 0.375, act)
        run = read(session, run, 40.0, act)
        run = adjusting.finish(session, run.id, True, act)
        while run.current:
            run = read(session, run, run.current.target * 1.001, act)
        run = closed(session, run, act)
    points, made = stages(run)
    assert len(points) == 3
    assert [(s.words, s.done_before) for s in made] == [("As found", ""), ("As left", "turned +⅜")]
    assert made[0].fences[0].mean > 0.05 > made[1].fences[0].mean
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"))
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    picture = bench.panels.deciding.stages
    assert picture.isVisible()
    assert picture.accessibleName().startswith("As found: 40\u202fN·m +7.")
