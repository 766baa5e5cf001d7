"""What do I have? From a typed line to the tool's first answer, in a shop of pounds and inches without a meter."""

from dataclasses import replace
from types import SimpleNamespace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PyQt6.QtCore import QPoint, Qt
from PyQt6.QtWidgets import QLabel

from reckoner.core.decision.states import State
from reckoner.core.reference.plan import MOST_HUNG, HangingPlace, makeable
from reckoner.core.reference.trips import HookTrip, pin_of_two
from reckoner.core.reference.weights import STANDARD_GRAVITY, Hanging, OwnWeight, OwnWeightRange, Pin, dead_weight
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.procedure import NewObservation
from reckoner.shop.procedures.papers import PAPERS
from reckoner.shop.procedures.weights import next_asked
from reckoner.shop.register import adding
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.runs import opening, setting_up, signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import Step
from reckoner.shop.setups.hanging import HungAt, HungWeight, LeverFacts
from reckoner.store.schema import Tool
from reckoner.store.terms import ObservationKind, ReferenceKind, RunKind, Source
from reckoner.ui.places import PlaceId
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.pounds import IN, LB, LBF_FT


def typed_at_the_top(qtbot, window, text):
    line = window.top_line
    press(window, Qt.Key.Key_J)
    type_in(window, text)

    def offers():
        return line.matches.isVisible() and "begin with it" in line.matches.item(line.matches.count() - 1).text()

    qtbot.waitUntil(offers, timeout=WAIT)


def begin(qtbot, window):
    """Enter at the top line, and nothing wrong with the tool: the bench at its set-up."""
    bench = window.place(PlaceId.BENCH)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.step is Step.SET_UP and bench.panels.set_up.ways.sheet is not None, timeout=WAIT)
    settle(qtbot, window)
    return bench


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
        tool = session.get_one(Tool, 1)
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
    bench = begin(qtbot, window)
    assert "off the grip mark this is a shop check" in words_on(window)
    lever = bench.panels.set_up.ways.hanging.lever
    assert lever.own_known
    assert not lever.proven
    assert dict(lever.shares(lever.points[0]))["pin"] > 0.5


def test_what_hook_and_rope_weigh_is_said_once_at_a_bench_and_counts_in_what_the_box_makes(
    qtbot, open_window, pounds, act
):
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    go(window, "bench", tool=1, kind=RunKind.CHECK)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    form = bench.panels.start.form
    bare = form.proposal.box[0].high
    assert "not of the whole 20–150\u202flbf·ft" in form.hangs.text()
    for _ in range(2):
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.step is Step.SET_UP, timeout=WAIT)
    settle(qtbot, window)
    sheet = bench.panels.set_up.ways.hanging
    sheet.hanger.setFocus()
    type_in(window, "1/2 lb")
    bench.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    kept = window.around.station.settings.hanger
    assert kept == pytest.approx(LB / 2)
    with database.session() as session:
        opening.give_up(session, bench.run.id, "only tried", act)
        made = propose(session, 1, act.at.date(), RunKind.CHECK, hanger=kept).box
    assert made[0].high == pytest.approx(bare + LB / 2 * STANDARD_GRAVITY * 18 * IN)
    bench.presenter.propose(1, RunKind.CHECK)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    for _ in range(2):
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run is not None and bench.run.step is Step.SET_UP, timeout=WAIT)
    assert sheet.hanger.text.replace("\u202f", " ") == "0.5 lb"


def test_a_tool_that_was_weighed_and_not_balanced_counts_as_what_it_may_be(qtbot, open_window, pounds):
    folder, database = pounds
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 18 in with T-1")
    bench = begin(qtbot, window)
    sheet = bench.panels.set_up.ways.hanging
    whole = sheet.lever.worth(sheet.lever.points[0])
    click(sheet.own.way.chips["weighed"])
    sheet.own.mass.setFocus()
    type_in(window, "3 lb")
    lever = sheet.lever
    may_be = OwnWeightRange(18 * IN)
    assert (lever.own_mass, lever.own_centre) == (pytest.approx(3 * LB), pytest.approx(may_be.centre))
    assert not lever.proven
    assert lever.worth(lever.points[0]) < whole
    assert "where it balances is not known: this is a shop check" in words_on(window)
    bench.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    with database.session() as session:
        tool = session.get_one(Tool, 1)
        assert (tool.own_mass, tool.own_centre) == (pytest.approx(3 * LB), None)


def test_the_box_stands_along_the_scale_and_a_click_takes_what_it_makes(qtbot, open_window, pounds):
    folder, _database = pounds
    window = open_window(folder)
    go(window, "bench", tool=1, kind=RunKind.CHECK)
    bench = window.place(PlaceId.BENCH)
    qtbot.waitUntil(lambda: bench.button.text() == "Put it on the bench", timeout=WAIT)
    settle(qtbot, window)
    form, proposal = bench.panels.start.form, bench.panels.start.form.proposal
    assert [one.words for one in proposal.box] == ["P-25", "P-25 + P-10"]  # 10 lb alone is below its scale
    assert form.points.value() == (pytest.approx(55 * LBF_FT),)  # 90 as its rule set has it cannot be made
    assert "55\u202flbf·ft: about 54.5\u202flbf·ft with P-25 + P-10 at 18\u202fin" in form.hangs.text()
    line = form.box
    light = proposal.box[0].high
    click(line, QPoint(round(line._along(light)), line.height() // 2))
    assert form.points.value() == (pytest.approx(round(light / LBF_FT) * LBF_FT),)
    click(line, QPoint(line.width() - 20, line.height() // 2))  # where nothing is made
    assert form.points.value() == (pytest.approx(round(light / LBF_FT) * LBF_FT),)
    line.setFocus()
    press(window, Qt.Key.Key_Right)
    assert form.points.value() == (pytest.approx(55 * LBF_FT),)
    form.points.line.setText("120 lbf.ft")
    assert "cannot be made; the nearest is 55\u202flbf·ft" in form.hangs.text()


@given(
    masses=st.lists(st.floats(0.2, 24.0), min_size=1, max_size=6),
    target=st.floats(5.0, 200.0),
    pin=st.sampled_from([0.0, 0.03]),
)
def test_what_a_box_makes_is_what_hangs(masses, target, pin):
    place = HangingPlace(OwnWeight(1.35, 0.19), Pin(pin, 0.42 if pin else None), 0.3)
    for one in makeable(masses, place, 0.2, 0.42):
        mass = sum(masses[i] for i in one.weights)
        for made in (one.low, min(max(target, one.low), one.high), one.high):
            hung = Hanging(mass, one.hook_for(made), 0.3, own=place.own, pin=place.pin)
            assert dead_weight(hung).at_grip == pytest.approx(made, rel=1e-9)
        assert (one.hook_for(one.low), one.hook_for(one.high)) == (0.2, 0.42)
        assert mass <= MOST_HUNG


def test_what_is_more_than_one_lift_hangs_in_parts_and_says_so_while_it_hangs(qtbot, open_window, pounds, act):
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "70 lb at 18 in with T-1")
    bench = begin(qtbot, window)
    panel = bench.panels.set_up
    qtbot.waitUntil(lambda: "in parts" in panel.cautions.words.text(), timeout=WAIT)
    for _ in range(3):
        press(window, ENTER)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    settle(qtbot, window)
    assert "in parts" in words_on(window)


@pytest.mark.parametrize("of_model", [False, True])
def test_two_hooks_tell_where_the_pin_is_and_the_register_keeps_it(qtbot, open_window, pounds, act, of_model):
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 17 in with T-1")
    bench = begin(qtbot, window)
    sheet = bench.panels.set_up.ways.hanging
    form = sheet.pin
    click(form.open_button)
    for field, text in ((form.heavy, "35"), (form.heavy_hook, "10"), (form.light, "15"), (form.light_hook, "10 1/4")):
        field.setFocus()
        type_in(window, text)
    assert "hooks are at one place" in form.told.text()
    form.light_hook.line.selectAll()
    form.light_hook.setFocus()
    type_in(window, "25")
    assert "measure both hooks again" in form.told.text()  # so it would lie behind the drive
    assert (form.found, sheet.lever.pivot) == (None, 0.0)
    form.light_hook.line.selectAll()
    form.light_hook.setFocus()
    type_in(window, "21 2/3")
    form.light.line.setText("34")
    assert "hardly apart" in form.told.text()
    form.light.line.setText("15")
    assert form.found.offset == pytest.approx((35 * 10 - 15 * (21 + 2 / 3)) / 20 * IN)
    assert "Its pin is 1.25\u202fin from the drive, ±0.16\u202fin" in form.told.text()
    assert sheet.lever.pivot == pytest.approx(1.25 * IN)
    assert sheet.lever.at_the_pin
    assert dict(sheet.lever.shares(sheet.lever.points[0]))["pin"] > 0
    assert [chip.text() for chip in form.kept_for.chips.values()] == ["this tool", "every Ottermoor OT-150"]
    if of_model:
        click(form.kept_for.chips["model"])
    bench.setFocus()
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.tool.pivot == pytest.approx(1.25 * IN)
    with database.session() as session:
        tool = session.get_one(Tool, 1)
        kept, other = (tool.model, tool) if of_model else (tool, tool.model)
        assert kept.pivot_offset == pytest.approx(1.25 * IN)
        assert not other.pivot_offset
    window.around.undo_stack.undo()
    settle(qtbot, window)
    with database.session() as session:
        tool = session.get_one(Tool, 1)
        assert (tool.pivot_offset, bool(tool.model.pivot_offset)) == (None, False)


@given(
    pin=st.floats(0.005, 0.06),
    torque=st.floats(20.0, 60.0),
    masses=st.tuples(st.floats(3.0, 9.0), st.floats(11.0, 25.0)),
)
def test_the_pin_of_two_trips_is_the_one_that_made_them(pin, torque, masses):
    own, found = OwnWeight(1.35, 0.19), []
    for mass in masses:  # both trip at the same moment about the pin
        hook = pin + torque / (mass * STANDARD_GRAVITY)
        hung = Hanging(mass, hook, own=own, pin=Pin(pin, 5.0))
        found.append((HookTrip(mass, hook), dead_weight(hung).at_grip))
    (one, first), (other, second) = found
    assert first == pytest.approx(second)  # the tool's own weight is in both
    assert pin_of_two(one, other).offset == pytest.approx(pin, abs=1e-9)
    unsure = pin_of_two(replace(one, hook_uncertainty=1e-3), other).standard_uncertainty
    moved = pin_of_two(replace(one, hook=one.hook + 1e-3), other).offset
    assert unsure == pytest.approx(abs(moved - pin))


def test_what_one_has_is_for_its_tool_and_its_point_and_begins_once(qtbot, open_window, pounds, act):
    folder, database = pounds
    with database.session() as session:
        first = session.get_one(Tool, 1)
        other = adding.add_tools(session, adding.ToolsDraft(("T-2",), first.model_id), act)[0][0]
        run = opening.open_run(session, other, act, propose(session, other, act.at.date(), RunKind.CHECK).plan)
        run = setting_up.look_over_all(session, run.id, act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 10 in with T-1")
    bench = begin(qtbot, window)
    assert bench.panels.set_up.ways.hanging.lever.points[0].hook == pytest.approx(10 * IN)
    go(window, "bench", run=run.id)  # the other tool's: nothing of it
    qtbot.waitUntil(lambda: bench.run.id == run.id and bench.panels.set_up.ways.sheet is not None, timeout=WAIT)
    settle(qtbot, window)
    assert bench.presenter.wishes.now is None
    assert bench.panels.set_up.ways.hanging.has.isHidden()
    typed_at_the_top(qtbot, window, "35 lb at 10 in with T-2")  # a run is under way, at another point
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.presenter.wishes.now is not None, timeout=WAIT)
    settle(qtbot, window)
    assert bench.run.id == run.id
    sheet = bench.panels.set_up.ways.hanging
    qtbot.waitUntil(lambda: sheet.lever is not None, timeout=WAIT)  # its own weight is not known, and that is said
    assert [at.hook for at in sheet.lever.points] == [pytest.approx(18 * IN)]  # what one has does not make this point
    assert "What you have does not make 55\u202flbf·ft. Instead: P-25 + P-10 at 18\u202fin" in sheet.has.text()
    assert not bench.presenter.wishes.takes_at_once()  # nothing begins later, unasked


def test_weighed_weights_decide_only_where_the_tool_and_its_pin_are_known():
    weight = HungWeight("W", 12.0, 0.004)
    sure = LeverFacts((HungAt(49.4, (weight,), 0.42),), 1.35, 0.19, 0.42)
    assert sure.proven
    off = replace(sure, points=(HungAt(36.0, (weight,), 0.305),))
    for doubted, why in (
        (replace(sure, own_known=False), "nobody has weighed the tool"),
        (replace(off, pin_known=False), "where its pin is nobody knows"),
    ):
        assert not doubted.proven
        reference = SimpleNamespace(set_up=doubted)  # a certificate says nothing of what hangs
        assert why in PAPERS[ReferenceKind.WEIGHTS].why_unproven(reference)
    assert replace(sure, pin_known=False).proven  # at the grip mark it is right
    assert replace(off, pin_known=False).worth(off.points[0]) > 2 * off.worth(off.points[0])
