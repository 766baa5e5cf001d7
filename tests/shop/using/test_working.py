"""Job cards kept, written and read; worked through fastener by fastener, resumed, signed; what is refused."""

import json
import math
from dataclasses import replace
from pathlib import Path

import pytest
from pypdf import PdfReader

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.printing import percent
from reckoner.core.quantities.units import Kind, unit_named
from reckoner.core.tightening.angle import carried
from reckoner.core.tightening.jobcard import JobCard, StageTool
from reckoner.core.tightening.jobs import (
    RUNNING_VALUES,
    VALUES,
    EntryKind,
    JobPlan,
    NextEntry,
    OverBandRule,
    PastBand,
    Pattern,
    in_a_circle,
    in_rows,
    named,
)
from reckoner.core.tightening.setting import Band, BandAim
from reckoner.formats.jobcard import parse, read_card, write_card, written
from reckoner.formats.papers.sheets_pdf import sheet_pdf
from reckoner.formats.refusals import FileRefused
from reckoner.formats.tables import write_table
from reckoner.shop.events.recording import record_event
from reckoner.shop.papers.sheets import card_paper
from reckoner.shop.people.authorship import FieldRefused, ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.register.rows import EditOutdated
from reckoner.shop.register.shelves import free_number
from reckoner.shop.using.cards import card_lines, keep, remove
from reckoner.shop.using.reviewing import begin as begin_review
from reckoner.shop.using.reviews import review
from reckoner.shop.using.snug import read_stages
from reckoner.shop.using.working import (
    begin,
    enter,
    enter_measured,
    give_up,
    loans_of,
    open_ones,
    settings_of,
    sign,
    stages_of,
    strike_last,
    take,
)
from reckoner.shop.using.works import entry_words, next_words, question_words, read_work, work_lines
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import TODAY, later, tool_id, tool_id_in

CARD = JobCard(
    "JC-9",
    JobPlan(in_a_circle(4), Band(76, 84), pattern=Pattern.CROSS, stages=(0.5, 1.0), over=OverBandRule.SLACKEN),
    "flange nuts",
    "tower 3",
    tools=(StageTool(0, "HC-0303", ("45 mm",)), StageTool(1, "0418")),
)
EVERYTHING = JobCard(
    "JC-8",
    JobPlan(
        in_rows(2, 3), Band(40.25, 50.5), BandAim.LOW, Pattern.OUTWARDS, (0.3, 0.7, 1.0), False, math.radians(60), True, True,
        Band(0.5, 3), True, OverBandRule.REPLACE,
    ),
    "jam nuts", "drive room", reason="the lock adds", marks="paint", lubricant="dry", instructions="page 6",
    tools=(StageTool(0, "HC-0303", ("45 mm at 90°", "CF-19")),), running_unit=unit_named("lbf.in", Kind.TORQUE),
    running_tool="HC-0215",
)  # fmt: skip


def test_the_card_in_the_documentation_is_one():
    told = (Path(__file__).parents[3] / "docs" / "file-formats.md").read_text(encoding="utf-8")
    card = parse(told.split("## Job card", 1)[1].split("```json", 1)[1].split("```", 1)[0])
    assert (card.number, card.plan.stages, card.tools[0].number) == ("JC-12", (0.5, 0.75, 1.0), "HC-0303")


@pytest.mark.parametrize("card", [CARD, EVERYTHING, JobCard("L", JobPlan(named(["L1", "N"]), Band(1.2, 1.4)))])
def test_a_card_written_is_the_card_that_is_read(card, tmp_path):
    assert parse(written(card)) == card
    write_card(tmp_path / "card.json", card)
    assert read_card(tmp_path / "card.json") == card


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"version": 2}, "newer"), ({"format": "x"}, "no job card"), ({"stages": ["70 %", "30 %", "100 %"]}, "higher"),
        ({"torque": {"low": "84 N.m", "high": "76 N.m"}}, "upside down"),
        ({"torque": {"low": 76, "high": 84}}, "with its unit"),
        ({"fasteners": {"layout": "circle", "count": 1}}, "no pattern"),
        ({"pattern": "from the middle outwards"}, "not tightened"),
        ({"more": 1}, "not a known key"), ({"tools": [{"stage": 0, "tool": "x"}]}, "tools"), ({"unit": "furlong"}, "furlong"),
    ],
)  # fmt: skip
def test_a_card_file_that_is_wrong_says_where(change, said):
    with pytest.raises(FileRefused, match=said):
        parse(json.dumps(json.loads(written(CARD)) | change))
    for text in ("", "[]", "{" * 5000):
        with pytest.raises(FileRefused):
            parse(text)


@pytest.mark.parametrize("suffix", ["csv", "xlsx"])
def test_a_spreadsheet_with_a_fastener_a_row_is_a_card(tmp_path, suffix):
    path = tmp_path / f"nuts.{suffix}"
    write_table(path, ("bolt", "low (lbf.ft)", "high (lbf.ft)"), [("A1", "56", "62"), ("A2", "56", "62")])
    card = read_card(path)
    assert (card.number, card.plan.fasteners.names) == ("nuts", ("A1", "A2"))
    assert (card.plan.band.low, card.plan.band.high) == (
        pytest.approx(75.926, abs=1e-3),
        pytest.approx(84.061, abs=1e-3),
    )
    for head, rows, said in (
        (("thing", "torque"), [("A", "5")], "no column is called"), (("bolt", "x"), [("A", "5")], "called torque"),
        (("bolt", "torque"), [("A", "5"), ("B", "6")], "one torque for all"),
        (("bolt", "torque"), [("A", "5"), ("A", "5")], "twice"),
    ):  # fmt: skip
        write_table(path, head, rows)
        with pytest.raises(FileRefused, match=said):
            read_card(path)


def test_a_card_is_kept_as_versions_and_taken_back(demo, act):
    with demo.session() as session:
        reader = reader_of(session)
        card_id, command = keep(session, CARD, act)
        assert [line.number for line in card_lines(reader)] == ["JC-1", "JC-2", "JC-3", "JC-4", "JC-9"]
        assert free_number(reader, RegisterKind.JOB_CARD, "JC-1") == "JC-5"
        with pytest.raises(FieldRefused, match="already a job card JC-9"):
            keep(session, CARD, act)
        other = JobCard("JC-9", CARD.plan, "other nuts")
        keep(session, other, act, card_id, 1)
        with pytest.raises(EditOutdated):
            keep(session, JobCard("JC-9", CARD.plan, "yet other"), act, card_id, 1)
        remove(session, card_id, act).take_back(session, act)
        assert card_lines(reader)[-1].card == other
        assert command.words == "adding JC-9"
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []


def test_stages_may_want_other_tools_and_one_that_cannot_is_said(demo, act):
    with demo.session() as session:
        first, second = settings_of(reader_of(session), CARD, TODAY)
        assert (first.tool, second.tool) == ("HC-0303", "HC-0418")
        assert first.factor == pytest.approx((320 + 45) / 320)
        assert first.adapter == "45\u202fmm adapter in line"
        assert (round(first.set), second.words) == (36, "80\u202fN·m")
        (tool, wanted), (_tool, last) = loans_of(reader_of(session), CARD, TODAY)
        assert (tool.tool.number, wanted[0].band, last[0].band) == ("HC-0303", None, Band(76, 84))
        for number, adapters, said in (
            ("HC-0430", (), "is held"), ("HC-0441", (), "is away"), ("ZZ-9", (), "No single tool"),
            ("HC-0418", (), "it goes from"),
            ("HC-0303", ("4 m",), "at most"),
        ):  # fmt: skip
            bad = JobCard("B", CARD.plan, tools=(StageTool(0, number, adapters),))
            if number == "HC-0418":
                bad = JobCard("B", JobPlan(in_a_circle(4), Band(20, 24), pattern=Pattern.CROSS), tools=bad.tools)
            assert said in settings_of(reader_of(session), bad, TODAY)[0].why_not
            with pytest.raises(ShopRefused, match="Choose another tool"):
                begin(session, bad, act)


def worked(session, work_id, act, value=80.0):
    """Everything that is asked for, until nothing is."""
    state = read_work(reader_of(session), work_id)
    while (there := state.stand.next) is not None:
        values = dict.fromkeys(VALUES, value) | dict.fromkeys(RUNNING_VALUES, 1.0)
        state = enter(session, work_id, there.kind, there.step, there.fastener, act, values.get(there.kind))
    return state


def test_a_job_is_worked_through_resumed_signed_and_then_stays(demo, act):
    with demo.session() as session:
        work_id = begin(session, CARD, act)
        state = read_work(reader_of(session), work_id)
        assert (
            next_words(state, state.stand.next).replace("\u202f", " ")
            == "Tighten 1 with HC-0303 set to 36 N·m: 40 N·m (50 %)."
        )
        with pytest.raises(ShopRefused, match="12 entries are open"):
            sign(session, work_id, act)
        for _ in range(5):
            state = enter(
                session, work_id, state.stand.next.kind, state.stand.next.step, state.stand.next.fastener, act
            )
        state = strike_last(session, work_id, act)
        assert state.stand.done == 4
        state = enter(session, work_id, EntryKind.MEASURED, 1, 1, act, 85.0)
        (asked,) = state.stand.asked
        assert entry_words(state, asked.entry).replace("\u202f", " ") == "85 N·m (+6.3 %, too high)"
        state = worked(session, work_id, act)
        with pytest.raises(ShopRefused, match="It went past the band: slacken it"):
            sign(session, work_id, act)
        enter(session, work_id, EntryKind.SLACKENED, 0, 1, act)
        state = worked(session, work_id, later(act, 1))
        assert state.stand.complete
        state = sign(session, work_id, later(act, 2))
        assert (state.closed, state.signed) == (f"signed on {TODAY:%-d %b %Y} by R. K.", True)
        for late in (
            lambda: enter(session, work_id, EntryKind.DONE, 0, 1, act),
            lambda: give_up(session, work_id, act, "x"),
        ):
            with pytest.raises(ShopRefused, match="This job is over"):
                late()
        assert [w.number for w in work_lines(reader_of(session))] == ["JC-1"]
        paper = sheet_pdf(card_paper(reader_of(session), state.card, state.settings, state))
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
    (demo.path.parent / "card.pdf").write_bytes(paper)
    pages = PdfReader(demo.path.parent / "card.pdf").pages
    text = " ".join(pages[0].extract_text().replace("\u202f", " ").split())
    assert len(pages) == 1
    for words in (
        "JC-9",
        "flange nuts",
        "76–84 N·m",
        "HC-0303 set to 36 N·m",
        "50 % · 40 N·m",
        "1 was slackened and done again",
        "done",
    ):
        assert words in text, words
    assert "1 was slackened and done again" in text


def test_stored_values_become_the_measured_torques_of_the_pass_at_hand(demo, act):
    with demo.session() as session:
        work_id = begin(session, CARD, act)
        at_first = read_work(reader_of(session), work_id)
        assert open_ones(at_first) == (1, 3, 2, 4)
        state = enter(session, work_id, EntryKind.DONE, 0, 1, act)
        with pytest.raises(ShopRefused, match="went on meanwhile"):
            take(session, at_first, ((2, 40.0),), act)
        state = take(session, state, tuple((2 + i, 40.0 + i) for i in range(5)), act)  # two more than there is room for
        assert [(e.fastener, e.value) for e in state.stand.counted if e.kind is EntryKind.MEASURED] == [
            (3, 40),
            (2, 41),
            (4, 42),
        ]
        assert (state.stand.next.step, state.stand.done) == (1, 4)
        state = take(session, state, ((2, 80.0), (3, 85.0)), act)
        assert (state.stand.over, open_ones(state)) == ((3,), ())  # it is seen to first
        with pytest.raises(ShopRefused, match="takes no torques"):
            take(session, state, ((4, 80.0),), act)
    with demo.session() as session:
        work_id = begin(session, CARD, act)
    with pytest.raises(ShopRefused, match=r"Line 3: .* Nothing of the file was taken"), demo.session() as session:
        take(session, read_work(reader_of(session), work_id), ((2, 40.0), (3, 2e6)), act)
    with demo.session() as session:
        assert read_work(reader_of(session), work_id).entries == ()


def test_running_torque_locks_and_angles_have_their_own_entries(demo, act):
    with demo.session() as session:
        work_id = begin(session, JobCard("JC-8", EVERYTHING.plan, marks="paint"), act)
        state = enter(session, work_id, EntryKind.NEW_BOLT, 0, 1, act)
        for fastener in range(2, 7):
            state = enter(session, work_id, EntryKind.NEW_BOLT, 0, fastener, act)
        assert next_words(state, state.stand.next).startswith(
            "Measure the running torque at 1: running on, least. Its band:"
        )
        state = enter(session, work_id, EntryKind.RUNNING_ON_LEAST, 1, 1, act)  # below the first mark
        assert state.value(1, EntryKind.RUNNING_ON_LEAST) is None
        with pytest.raises(ShopRefused, match="Type the torque"):
            enter(session, work_id, EntryKind.BEFORE_LOCK, 7, 1, act)
        with pytest.raises(ShopRefused, match="no such fastener"):
            enter(session, work_id, EntryKind.DONE, 0, 7, act)
        state = worked(session, work_id, act, 45.0)
        sentences = {next_words(state, e.entry) for e in state.entries}  # each entry says as much as what was asked
        assert any("Turn" in s and "60" in s and "paint" in s for s in sentences)
        assert any("now that it is locked" in s for s in sentences)
        text = sheet_pdf(card_paper(reader_of(session), state.card, state.settings, state))
        assert len(PdfReader(_file(demo, text)).pages) <= 2
        assert sign(session, work_id, act).signed


def _file(demo, data):
    path = demo.path.parent / "x.pdf"
    path.write_bytes(data)
    return path


def test_a_job_is_given_up_only_with_a_reason_and_what_was_used_is_reviewed(demo, act):
    with demo.session() as session:
        work_id = begin(session, CARD, act)
        enter(session, work_id, EntryKind.DONE, 0, 1, act)
        with pytest.raises(ShopRefused, match="why it ends"):
            give_up(session, work_id, act, " ")
        assert give_up(session, work_id, later(act, 1), "rain").closed.endswith("rain")
        found = review(reader_of(session), begin_review(session, tool_id(demo, "HC-0418"), later(act, 2)))
        (line,) = found.lines
        assert (line.use.job, line.use.joint, line.use.band) == ("flange nuts", "stage 2 of 2", Band(76, 84))
        assert line.delivered == pytest.approx(80, abs=0.6)


def test_a_tool_of_a_stage_below_the_last_is_reviewed_by_its_torque_alone(demo, act):
    with demo.session() as session:
        work_id = begin(session, CARD, act)
        enter(session, work_id, EntryKind.DONE, 0, 1, act)
        give_up(session, work_id, later(act, 1), "rain")
        found = review(reader_of(session), begin_review(session, tool_id(demo, "HC-0303"), later(act, 2)))
        (line,) = [line for line in found.lines if line.use.job == "flange nuts"]
        assert (line.use.joint, line.use.band) == ("stage 1 of 2", None)


def test_a_card_of_many_fasteners_stands_on_one_page_in_two_halves(demo):
    card = replace(CARD, plan=replace(CARD.plan, fasteners=in_a_circle(48)))
    with demo.session() as session:
        reader = reader_of(session)
        paper = card_paper(reader, card, settings_of(reader, card, TODAY))
    (demo.path.parent / "many.pdf").write_bytes(sheet_pdf(paper))
    pages = PdfReader(demo.path.parent / "many.pdf").pages
    assert len(pages) == 1
    assert {str(i) for i in range(1, 49)} <= set(pages[0].extract_text().split())


RUNNING = JobCard(
    "JC-7",
    JobPlan(named(("left", "right")), Band(76, 84), running=Band(0.5, 3.0), last_pass=False, measured=True),
    running_unit=unit_named("lbf.in", Kind.TORQUE),
    running_tool="HC-0215",
)


def test_a_running_torque_is_held_against_its_own_band_in_its_own_unit(demo, act):
    with demo.session() as session:
        work_id = begin(session, RUNNING, act)
        state = read_work(reader_of(session), work_id)
        assert next_words(state, state.stand.next).replace("\u202f", " ") == (
            "Measure the running torque at left: running on, least. Its band: 4.4254–26.552 lbf·in, with HC-0215."
        )
        state = enter(session, work_id, EntryKind.RUNNING_ON_LEAST, 0, 1, act, 1.0)  # far below the tightening torque
        assert state.stand.asked == ()
        assert entry_words(state, state.entries[-1].entry).replace("\u202f", " ") == "8.8507 lbf·in"
        for kind, value in ((EntryKind.RUNNING_ON_MOST, 3.5), (EntryKind.RUNNING_OFF_LEAST, 0.4)):
            state = enter(session, work_id, kind, 0, 1, act, value)
            (asked,) = state.stand.asked
            assert (asked.past, asked.entry.value) == (PastBand.RUNNING, value)
            assert "outside its band" in question_words(state, asked)
            with pytest.raises(ShopRefused, match="Say in a few words why it stays"):
                enter(session, work_id, EntryKind.KEPT, 0, 1, act)
            state = enter(session, work_id, EntryKind.KEPT, 0, 1, act, words="its maker allows it")
        assert state.stand.asked == ()
        state = enter(
            session, work_id, EntryKind.RUNNING_OFF_MOST, 0, 1, act, 80.0
        )  # within the tightening band, and no less wrong
        state = enter(session, work_id, EntryKind.REPLACED, 0, 1, act)
        assert state.stand.next == NextEntry(0, 1, EntryKind.RUNNING_ON_LEAST)  # it begins anew
        state = enter(session, work_id, EntryKind.RUNNING_ON_LEAST, 0, 1, act)
        assert entry_words(state, state.entries[-1].entry) == "below the first mark"
    with demo.session() as session, pytest.raises(ShopRefused, match="shows nothing"):
        begin(session, replace(RUNNING, running_tool="HC-0417"), act)


def test_one_below_its_band_is_tightened_on_or_kept_with_a_reason(demo, act):
    card = JobCard("JC-6", JobPlan(named(("left", "right")), Band(76, 84), last_pass=False, measured=True))
    with demo.session() as session:
        work_id = begin(session, card, act)
        state = enter_measured(session, work_id, 0, 1, act, 70.0)  # tightened, not yet measured at its end
        assert (state.stand.asked, state.stand.next) == ((), NextEntry(0, 2, EntryKind.DONE))
        enter(session, work_id, EntryKind.DONE, 0, 2, act)
        state = enter(session, work_id, EntryKind.MEASURED, 1, 1, act, 75.0)
        (asked,) = state.stand.asked
        assert asked.past is PastBand.TOO_LOW
        state = enter(session, work_id, EntryKind.TIGHTENED_ON, 1, 1, act)
        assert (state.stand.asked, state.stand.next) == ((), NextEntry(1, 1, EntryKind.MEASURED))
        state = enter(session, work_id, EntryKind.MEASURED, 1, 1, act, 76.0)  # on the band's end: inside
        assert state.stand.asked == ()
        enter(session, work_id, EntryKind.MEASURED, 1, 2, act, 74.0)
        state = enter(session, work_id, EntryKind.KEPT, 1, 2, act, words="agreed with its maker")
        assert state.stand.complete
        paper = sheet_pdf(card_paper(reader_of(session), state.card, state.settings, state))
        text = " ".join(PdfReader(_file(demo, paper)).pages[0].extract_text().split())
        assert "right was kept as it is: agreed with its maker." in text


def test_the_torque_before_an_angle_says_what_it_does_to_the_clamp_and_names_the_better_tool(demo):
    def snug(torque, tool, angle=1.5):
        plan = JobPlan(in_a_circle(4), Band(torque, torque), pattern=Pattern.CROSS, stages=(0.5, 1.0), angle=angle)
        with demo.session() as session:
            return read_stages(reader_of(session), JobCard("A", plan, tools=(StageTool(0, tool),)), TODAY)[1]

    assert snug(80, "0418", None) is None
    assert snug(80, "nobody's") is None
    low = snug(80, "0418")
    assert low.low is (low.share < 0.4)
    assert low.error == pytest.approx(abs(low.answer.exact.deviation) + low.answer.exact.expanded_uncertainty)
    assert (carried(low.error, 0.25), carried(low.error, 0.5)) == (low.error / 4, low.error / 2)
    assert percent(low.error / 4, 1) in low.words
    assert "HC-0418, 40 % of its full scale" in low.words.replace("\u202f", " ")
    assert low.better is None
    low = snug(45, "0417")
    assert low.better.card.tool.number == "HC-0311"
    assert low.better.ranked.expected_error < low.error
    assert "low on it, at 23 %" in low.words.replace("\u202f", " ")
    assert "HC-0311 does better: at 25 %" in low.words.replace("\u202f", " ")
    assert "No other tool of the shop" in snug(35, "0303").words
    unknown = snug(105, "0460")
    assert unknown.error is None
    assert "nobody measured it there" in unknown.words
    with pytest.raises(InputRefused, match="part"):
        carried(0.05, 1.5)


def test_a_stage_asks_for_the_test_of_what_nobody_measured_where_its_tool_can_be_had(demo, act):
    def asked(torque, number):
        card = JobCard(
            "A", JobPlan(in_a_circle(4), Band(torque, torque), pattern=Pattern.CROSS), tools=(StageTool(0, number),)
        )
        with demo.session() as session:
            return stages_of(reader_of(session), card, TODAY)[0].to_measure

    found = asked(105, "0460")  # new
    assert (found.ask.tool.number, found.setting) == ("HC-0460", 105)
    assert asked(300, "0460") is None  # beyond its range
    assert asked(80, "0418") is None  # measured
    with demo.session() as session:
        record_event(session, tool_id_in(session, "HC-0460"), EventKind.KEPT, "a claim", act)
    assert asked(105, "0460") is None
