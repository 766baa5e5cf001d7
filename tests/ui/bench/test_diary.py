"""A diary of abuse in the window: baseline, what was done, and the same readings again."""

from reckoner.shop.runs.records import Step
from reckoner.store.terms import Abuse, RunKind
from reckoner.ui.places import PlaceId
from tests.shop.runs.test_diary import begun, read_step
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.runs import tool_id


def test_what_was_done_is_said_and_the_same_readings_are_asked_again(
    qtbot, open_window, demo_folder, demo, act, tmp_path
):
    with demo.session() as session:
        run = read_step(session, begun(session, demo, act), act, 1.0)
    window = open_window(demo_folder)
    go(window, "bench", tool=tool_id(demo, "HC-0417"), kind=RunKind.DIARY)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    view = bench.panels.deciding.diary
    assert bench.button.text() == "Say what was done to it"
    assert not bench.button.isEnabled()
    press(window, ENTER)
    assert not bench.run.signed
    click(view.what.chips[Abuse.DROPPED.value])
    assert bench.button.text() == "Read it again"
    view.words.setFocus()
    type_in(window, "from a metre")
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    assert (bench.run.id, len(bench.run.found), bench.run.found[1].abuse_note) == (run.id, 2, "from a metre")
    with demo.session() as session:
        run = read_step(session, bench.run, act, 0.97)
    bench.presenter.open_run(run.id)
    qtbot.waitUntil(lambda: bench.run.step is Step.DECIDE, timeout=WAIT)
    settle(qtbot, window)
    panel = bench.panels.deciding
    assert panel.sentence.text().startswith("Dropped, from a metre: reads 3.0")
    assert len(bench.right.fences.fences) == 2
    assert bench.button.text() == "Hold, sign as R. K."
    view.save(tmp_path / "diary.pdf")
    qtbot.waitUntil((tmp_path / "diary.pdf").exists, timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.signed, timeout=WAIT)
    assert not view.what.isVisible()
