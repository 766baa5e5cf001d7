"""What a bad tool may have spoiled: begun with the signature, judged by hand-worked numbers, settled line by line, closed."""

from dataclasses import replace
from datetime import date, timedelta

import pytest
from pypdf import PdfReader
from sqlalchemy import func, select

from reckoner.core.quantities.printing import percent
from reckoner.core.tightening.setting import Band, BandPlace, KnownPoint
from reckoner.formats.papers.sheets_pdf import sheet_pdf
from reckoner.shop.papers.sheets import review_paper
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.planning.agenda import DayList, agenda
from reckoner.shop.runs import amending, signing
from reckoner.shop.using.lending import WantedSetting, lend, take_back
from reckoner.shop.using.reviewing import basis_of, begin, close, judge, settle, siblings, uses_of
from reckoner.shop.using.reviewlines import Basis
from reckoner.shop.using.reviews import asking, line_words, review, reviews
from reckoner.shop.using.setting import SettingUse
from reckoner.shop.using.trips import OutsideDraft, OutsidePointDraft, enter_certificate
from reckoner.store.reader import reader_of
from reckoner.store.schema import Review, Tool
from reckoner.store.terms import RunKind
from tests.support.runs import TODAY, later, outside, read_all, ready, tool_id

FLAT = (KnownPoint(40, 0.05, 0.01), KnownPoint(200, 0.05, 0.01))


def use(torque, low, high, factor=1.0, on=date(2026, 7, 1)):
    return SettingUse("crew", on, None, set=torque, factor=factor, band=Band(low, high) if low else None)


def test_what_was_delivered_with_its_interval_decides_and_the_worst_stands_first():
    basis = Basis(FLAT, "as found", None, TODAY)
    lines = judge(
        basis, [use(105, 95, 105), use(105, 99.5, 101), use(105, 105, 120), use(20, 15, 25), use(105, None, None)], 200
    )
    assert [line.falls for line in lines] == [
        BandPlace.OUTSIDE, BandPlace.CANNOT_TELL, BandPlace.CANNOT_TELL, BandPlace.CANNOT_TELL, BandPlace.INSIDE,
    ]  # fmt: skip
    outside_, inside = lines[0], lines[-1]
    assert outside_.delivered == pytest.approx(100)  # 105/1.05
    assert outside_.uncertainty == 0.01
    assert inside.use.band == Band(95, 105)
    far = next(line for line in lines if line.use.set == 20)
    assert (far.delivered, far.low) == (
        None,
        True,
    )  # nothing is extrapolated, and it was used below a fifth of its scale
    assert judge(basis, [use(105, 110, 116, factor=1.125)], 200)[0].delivered == pytest.approx(112.5)
    assert judge(basis, [SettingUse("crew", TODAY, None)], 200)[0].falls is BandPlace.CANNOT_TELL


def test_the_demo_asks_for_the_review_of_its_summer(demo):
    with demo.session() as session:
        (found,) = reviews(reader_of(session))
        assert (found.tool, found.left, found.since) == ("HC-0404", 3, date(2025, 9, 16))
        assert [line.falls for line in found.lines] == [BandPlace.OUTSIDE, BandPlace.OUTSIDE, BandPlace.INSIDE]
        clamps = found.lines[0]
        known = {p.setting: p.deviation for p in found.points}
        a = known[40] + (88 - 40) / (120 - 40) * (known[120] - known[40])
        assert clamps.delivered == pytest.approx(88 / (1 + a))
        assert "HC-0402" in found.siblings
        assert found.sentence == (
            "HC-0404: 3 uses since 16 Sep 2025; 2 probably outside the joint's band, 1 probably inside."
        )
        assert "wants 86–94" in line_words(clamps, found.unit)
        assert asking(reader_of(session)) == ()
        day = agenda(reader_of(session), TODAY)
        assert [i.card.tool.number for i in day.of(DayList.REVIEWS)] == ["HC-0404"]


def test_each_line_is_settled_with_a_note_before_it_can_be_closed_and_then_it_stays(demo, act):
    with demo.session() as session:
        (found,) = reviews(reader_of(session))
        for words, line, said in (("", 0, "in a few words"), ("done", 7, "no line 8")):
            with pytest.raises(ShopRefused, match=said):
                settle(session, found.id, line, words, act)
        settle(session, found.id, 0, "all torqued again", act)
        with pytest.raises(ShopRefused, match="2 lines are not settled"):
            close(session, found.id, "", act)
        for line in (1, 2, 1):
            settle(session, found.id, line, f"line {line} seen", act)
        close(session, found.id, "nothing left", act)
        with pytest.raises(ShopRefused, match="closed"):
            settle(session, found.id, 0, "more", act)
        (closed,) = reviews(reader_of(session), closed=True)
        assert closed.closed.startswith("closed on 24 Nov 2026 by R. K.: nothing left")
        assert agenda(reader_of(session), TODAY).of(DayList.REVIEWS) == ()
        paper = sheet_pdf(review_paper(reader_of(session), closed))
    (demo.path.parent / "review.pdf").write_bytes(paper)
    text = " ".join("".join(p.extract_text() for p in PdfReader(demo.path.parent / "review.pdf").pages).split())
    for line, done in zip(closed.lines, closed.settled, strict=True):
        assert done.note in text
        assert percent(line.uncertainty, 1).replace("\u202f", " ") in text
    assert "OUTSIDE" in text
    assert "HC-0402" in text


def test_a_run_that_finds_a_lent_tool_outside_begins_one_and_its_amendment_no_other(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        lend(session, (wanted,), "Tower crew", None, (WantedSetting(120, band=Band(118, 122)),), act)
        take_back(session, wanted, later(act, 1))
        run = outside(session, wanted, later(act, 2))
        run = signing.sign(session, run.id, later(act, 3))
        found = reviews(reader_of(session))[0]
        assert (found.tool, [line.use.set for line in found.lines]) == ("HC-0417", [120])
        assert found.basis.startswith("as found on 24 Nov 2026")
        count = session.scalar(select(func.count()).select_from(Review))
        again = amending.amend(session, run.id, "a misread reference", later(act, 4))
        signing.sign(session, again.id, later(act, 5))
        assert session.scalar(select(func.count()).select_from(Review)) == count


def test_a_tool_that_was_never_lent_or_that_is_good_begins_none(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        signing.sign(session, run.id, later(act, 2))
        assert [r.tool for r in reviews(reader_of(session))] == ["HC-0404"]
        with pytest.raises(ShopRefused, match=r"HC-0418 was not lent since \d+ \w+ 202\d, nor set for a job"):
            begin(session, tool_id(demo, "HC-0418"), act)
        with pytest.raises(ShopRefused, match="Nothing is known of HC-0460"):
            begin(session, tool_id(demo, "HC-0460"), act)


def test_it_can_be_asked_of_any_tool_at_any_time_by_what_is_known_of_it(demo, act):
    wanted = tool_id(demo, "HC-0326")
    with demo.session() as session:
        found = review(reader_of(session), begin(session, wanted, act))
        assert found.basis.startswith("full run of")
        assert all(line.use.on > found.since or line.use.back is None for line in found.lines)
        assert [line.use.job for line in found.lines] == ["sheave axle bolts"]


def test_pulls_as_it_came_count_where_there_are_any(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        lend(session, (wanted,), "Tower crew", None, (WantedSetting(120, band=Band(117, 123)),), act)
        take_back(session, wanted, later(act, 1))
        run = ready(session, wanted, later(act, 2), RunKind.FULL, came=2)
        run = read_all(session, run, later(act, 2), 0.94)
        run = signing.sign(session, run.id, later(act, 4))
        found = reviews(reader_of(session))[0]
        target = run.came[0].target
        came = next(p for p in found.points if p.setting == target)
        pulled = [p.deviation for p in run.came[0].pairs]
        assert came.deviation == pytest.approx(sum(pulled) / len(pulled))
        assert found.basis.startswith("as it came, and as found")


def test_siblings_are_of_the_same_model_age_and_use(demo):
    with demo.session() as session:
        wanted = tool_id(demo, "HC-0404")
        own = session.get_one(Tool, wanted)
        alike = siblings(reader_of(session), wanted)
        assert {session.scalar(select(Tool.model_id).where(Tool.number == n)) for n in alike} == {own.model_id}
        other = session.scalar(select(Tool).where(Tool.number == alike[0]))
        own.in_service, other.in_service = date(2020, 1, 1), date(2024, 1, 1)
        session.flush()
        assert alike[0] not in siblings(reader_of(session), wanted)
        other.in_service, own.cycles_per_year, other.cycles_per_year = date(2020, 6, 1), 1000, 2001
        session.flush()
        assert alike[0] not in siblings(reader_of(session), wanted)
        other.cycles_per_year = 2000
        session.flush()
        assert alike[0] in siblings(reader_of(session), wanted)


def test_a_loan_still_out_on_the_day_it_was_good_counts_and_a_mistaken_one_does_not(demo, act):
    wanted = tool_id(demo, "HC-0417")
    with demo.session() as session:
        made = lend(session, (wanted,), "nobody", None, (WantedSetting(100),), act)
        made.take_back(session, act)
        lend(session, (wanted,), "Tower crew", None, (WantedSetting(120),), replace(act, at=act.at))
        found = review(reader_of(session), begin(session, wanted, later(act, 1)))
        assert [line.use.to for line in found.lines] == ["Tower crew"]


def test_a_loan_that_was_still_out_when_the_tool_was_last_good_counts(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        lend(session, (wanted,), "crew", None, (), act)
        take_back(session, wanted, later(act, 72))
        day = act.at.date()

        def since(days):
            found = uses_of(session, wanted, day + timedelta(days=days), day + timedelta(days=9))
            return [use.to for use in found if use.to == "crew"]

        assert (since(0), since(2), since(3), since(4)) == (["crew"], ["crew"], ["crew"], [])


def test_what_was_good_after_the_bad_result_does_not_shorten_its_review(demo, act):
    wanted = tool_id(demo, "HC-0418")
    with demo.session() as session:
        lend(session, (wanted,), "crew", None, (), act)
        take_back(session, wanted, later(act, 1))
        run = outside(session, wanted, later(act, 24))
        run = signing.sign(session, run.id, later(act, 26))
        good = tuple(OutsidePointDraft(t, 0.0, 0.005) for t in (40, 120, 200))
        draft = OutsideDraft("L-1", "Fellgate Laboratory", act.at.date() + timedelta(days=3), good)
        enter_certificate(session, wanted, draft, later(act, 72))
        since = basis_of(session, wanted, run.id, later(act, 80).at.date()).since
        assert since is not None
        assert since < act.at.date()
