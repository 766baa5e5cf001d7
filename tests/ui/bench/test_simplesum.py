"""What do I have? From a typed line to the tool's first answer, in a shop of pounds and inches without a meter."""

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel

from reckoner.core.decision.states import State
from reckoner.core.reference.weights import STANDARD_GRAVITY, OwnWeightRange
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.weights import next_asked
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.records import Step
from reckoner.store.database import Database
from reckoner.store.terms import ObservationKind, Source
from reckoner.ui.places import PlaceId
from tests.support.clock import NOW
from tests.support.hands import ENTER, WAIT, go, press, settle, type_in

POUNDS = """
people = [{ initials = "J. D.", name = "J. Dell" }]
[[models]]
maker = "Ottermoor"
name = "OT-150"
type = "II"
class = "A"
mechanism = "click"
minimum = "20 lbf.ft"
maximum = "150 lbf.ft"
resolution = "1 lbf.ft"
unit = "lbf.ft"
lever_length = "18 in"
[[tools]]
number = "T-1"
model = "Ottermoor OT-150"
[[weights]]
number = "P-25"
stamped = "25 lb"
[[weights]]
number = "P-10"
stamped = "10 lb"
"""
LB, IN, LBF_FT = 0.45359237, 0.0254, 1.3558179483314003


@pytest.fixture
def pounds(tmp_path):
    folder = tmp_path / "own"
    database = Database(folder)
    with database.session() as session:
        take_in(session, register.parse(POUNDS), NOW)
    yield folder, database
    database.close()


def typed_at_the_top(qtbot, window, text):
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, text)

    def offers():
        return line.matches.isVisible() and "begin with it" in line.matches.item(line.matches.count() - 1).text()

    qtbot.waitUntil(offers, timeout=WAIT)


def words_on(window):
    return " ".join(w.text() for w in window.current.findChildren(QLabel) if w.isVisible()).replace("\u202f", " ")


def test_six_presses_lead_from_what_one_has_to_the_first_click(qtbot, open_window, pounds):
    folder, database = pounds
    window = open_window(folder)
    bench = window.place(PlaceId.BENCH)
    go(window, "bench")
    settle(qtbot, window)
    typed_at_the_top(qtbot, window, "35 lb at 18 in with T-1")
    presses = 0

    def enter(until):
        nonlocal presses
        presses += 1
        press(window, ENTER)
        qtbot.waitUntil(until, timeout=WAIT)
        settle(qtbot, window)

    enter(lambda: bench.run is not None)
    enter(lambda: bench.run.step is Step.SET_UP and bench.panels.set_up.ways.sheet is not None)
    said = words_on(window)
    assert "P-25 + P-10 at 18 in makes" in said
    assert "its own weight is not known: this is a shop check" in said
    assert "mm" not in said
    assert "kg" not in said
    enter(lambda: bench.run.reference is not None)
    assert bench.button.text() == "Go on; it was not measured"
    enter(lambda: bench.run.step is Step.EXERCISE)
    assert "With nothing hung" in words_on(window)
    enter(lambda: bench.run.step is Step.AS_FOUND)
    press(window, Qt.Key.Key_C)
    qtbot.waitUntil(lambda: bool(bench.run.found[0].counted), timeout=WAIT)
    settle(qtbot, window)
    assert presses + 1 == 6
    run = bench.run
    lever = run.reference.set_up
    hung = lever.points[0]
    weights = 35 * LB * STANDARD_GRAVITY * 18 * IN
    own = OwnWeightRange(18 * IN)
    assert lever.torque(hung) == pytest.approx(weights + own.mass * STANDARD_GRAVITY * own.centre)
    low, high = (weights + one for one in own.torques)
    assert lever.torque(hung) * (1 - lever.worth(hung)) < low + 0.5
    assert lever.torque(hung) * (1 + lever.worth(hung)) > high - 1.5
    with database.session() as session:
        tool = load(session, run.id).tool
        assert (tool.own_mass, tool.own_centre) == (None, None)  # what nobody weighed is not in the register


def test_it_ends_as_a_shop_check_whose_paper_speaks_of_inches_and_of_what_nobody_knew(qtbot, open_window, pounds, act):
    folder, database = pounds
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 18 in with T-1")
    bench = window.place(PlaceId.BENCH)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    for _ in range(4):
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    run = bench.run
    with database.session() as session:
        while run.step is Step.AS_FOUND:
            asked = next_asked(run, run.current)
            kind = ObservationKind.CLICKED if asked.setting <= 54 * LBF_FT else ObservationKind.SILENT
            seen = NewObservation(kind, None, Source.TYPED, tool_value=asked.setting)
            run = taking.observe(session, run.id, seen, act)
        assert run.step is Step.DECIDE
        assert judged(run).verdict.state is State.COMPARED
        run = signing.sign(session, run.id, act)
        paper = certificate_of(session, run)
    told = " ".join([*paper.remarks, *(w for _, lines in paper.blocks for line in lines for w in line)])
    assert "not measured" in told
    assert [lever.units.length.symbol for lever in paper.levers] == ["in"]
    assert "18\u202fin" in paper.levers[0].title
    assert "shop check" in paper.formal


def test_a_tool_that_was_weighed_needs_nothing_more_and_what_is_off_the_mark_is_said(qtbot, open_window, pounds, act):
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 12 in with T-1")
    found = " ".join(window.top_line.matches.item(i).text() for i in range(window.top_line.matches.count()))
    assert "its own weight in it" in found
    assert "where its pin is nobody knows: off the grip mark, 18\u202fin" in found
    bench = window.place(PlaceId.BENCH)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.SET_UP and bench.panels.set_up.ways.sheet is not None, timeout=WAIT)
    settle(qtbot, window)
    assert "off the grip mark this is a shop check" in words_on(window)
    lever = bench.panels.set_up.ways.hanging.lever
    assert lever.own_known
    assert not lever.proven
    assert dict(lever.shares(lever.points[0]))["pin"] > 0.5
