"""A diary of abuse: a baseline, what is done to a tool, and the same readings after each thing."""

import pytest
from pypdf import PdfReader

from reckoner.core.decision.states import State
from reckoner.core.history.comparison import ComparedChange, compare
from reckoner.shop.events.standing import Condition
from reckoner.shop.papers.diaries import diary_paper
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.records import checking
from reckoner.shop.records.documents import diary_bytes
from reckoner.shop.register.cards import card
from reckoner.shop.runs import opening, outcomes, setting_up, signing, taking
from reckoner.shop.runs.diary import add_step, diary_of
from reckoner.shop.runs.judging import judged, margin_of
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.records import CAME, MEASURE, Step
from reckoner.shop.words.diary import diary_sentence
from reckoner.store.reader import reader_of
from reckoner.store.terms import Abuse, Outcome, RunKind, ZeroMoment
from tests.support.runs import TODAY, looked_over, read, set_up, tool_id

HC = "HC-0417"


def begun(session, demo, act):
    run = looked_over(session, opening.open_run(session, tool_id(demo, HC), act, proposed(session, demo)), act)
    run = set_up(session, run, 6, act)
    while run.step is Step.EXERCISE:
        run = taking.record_exercise(session, run.id, None, act)
    return run


def proposed(session, demo):
    return propose(session, tool_id(demo, HC), TODAY, RunKind.DIARY).plan


def read_step(session, run, act, factor):
    scatter = (0.0, 0.002, -0.001, 0.001)
    while run.current is not None:
        run = read(session, run, run.current.target * (factor + scatter[len(run.current.pairs) % 4]), act)
    return setting_up.record_zero(session, run.id, ZeroMoment.AFTER, 0.0, act)


def plain(words):
    return words.replace("\u202f", " ")


def test_each_step_is_held_against_the_baseline_and_the_step_before_and_the_tool_is_held(demo, act):
    with demo.session() as session:
        run = begun(session, demo, act)
        assert [(s.phase, s.wanted) for s in run.all_series] == [(CAME, 2), (MEASURE, 8)]
        assert all(s.pairs for s in run.came)
        with pytest.raises(ShopRefused, match="Read this step to its end first"):
            add_step(session, run.id, Abuse.DROPPED, "", act)
        run = read_step(session, run, act, 1.0)
        assert run.step is Step.DECIDE
        assert [c.outcome for c in outcomes.choices(run, TODAY)] == [Outcome.COMPARISON]
        with pytest.raises(ShopRefused, match="Say in a few words"):
            add_step(session, run.id, Abuse.OTHER, "  ", act)
        for what, words, factor in (
            (Abuse.EXERCISED, "twenty times", 1.0),
            (Abuse.DROPPED, "from a metre", 0.99),
            (Abuse.THROWN, "", 0.96),
        ):
            run = add_step(session, run.id, what, words, act)
            assert run.step is Step.AS_FOUND
            run = read_step(session, run, act, factor)
        steps = diary_of(run)
        assert [s.name for s in steps] == ["Baseline", "Exercised, twenty times", "Dropped, from a metre", "Thrown"]
        assert [s.beside_baseline and s.beside_baseline.change for s in steps[1:]] == [
            ComparedChange.UNCHANGED, ComparedChange.CHANGED, ComparedChange.CHANGED
        ]  # fmt: skip
        last = steps[-1]
        margin = margin_of(run)
        assert last.beside_baseline == compare(steps[0].series.readings, last.series.readings, margin)
        assert last.beside_last == compare(steps[2].series.readings, last.series.readings, margin)
        assert plain(diary_sentence(run)).startswith("Thrown: reads 4.0 % lower than the baseline (")
        assert diary_sentence(run).endswith("changed; the furthest of 3 steps")
        verdict = judged(run).verdict
        assert (verdict.state, verdict.accepted) == (State.COMPARED, None)
        assert [c.outcome for c in outcomes.choices(run, TODAY)] == [Outcome.HELD, Outcome.RETIRED]
        run = signing.sign(session, run.id, act)
        assert Condition.HELD in card(reader_of(session), run.tool.id).standing.conditions(TODAY)
        paper = diary_paper(reader_of(session), run)
        assert [name for name, _ in paper.fences] == [s.name for s in steps]
        assert len(paper.tables[0].rows) == 4
        assert paper.notes[0].startswith("As it came")
        data = diary_bytes(session, run.id, (210, 297))()
        with pytest.raises(ShopRefused, match="signed"):
            add_step(session, run.id, Abuse.DROPPED, "", act)
        with pytest.raises(ShopRefused, match="Only a diary"):
            diary_paper(reader_of(session), opening.open_run(session, tool_id(demo, "HC-0302"), act))
    with demo.session() as session:
        assert [f for f in checking.walk(session) if isinstance(f, checking.CheckFinding)] == []
    import io

    told = " ".join(PdfReader(io.BytesIO(data)).pages[0].extract_text().replace("\u202f", " ").split())
    assert "Dropped, from a metre" in told
    assert "the baseline" in told


def test_a_step_belongs_to_a_diary_alone_and_two_readings_are_no_baseline(demo, act):
    with demo.session() as session:
        other = opening.open_run(session, tool_id(demo, "HC-0302"), act)
        with pytest.raises(ShopRefused, match="Only a diary has steps"):
            add_step(session, other.id, Abuse.DROPPED, "", act)
