"""What leaves on paper beside certificates: labels at their true size, and the numbers that certificates bear."""

import io
from dataclasses import replace
from datetime import datetime, timedelta, timezone

import pytest
from pypdf import PdfReader
from sqlalchemy import select
from sqlalchemy.exc import IntegrityError

from reckoner.core.decision.states import State
from reckoner.core.errors import InputRefused
from reckoner.formats.papers.contents import USUAL, Label, read_sizes
from reckoner.formats.papers.labels_pdf import labels_pdf
from reckoner.formats.papers.pdf import MM
from reckoner.shop import numbering
from reckoner.shop.events.recording import record_event
from reckoner.shop.numbering import certificate_number, read_scheme
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.labels import reference_labels, sizes, tool_label, tool_labels
from reckoner.shop.records.results import results
from reckoner.shop.register.cards import card
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import signing
from reckoner.shop.runs.loading import load
from reckoner.store.reader import reader_of
from reckoner.store.schema import CertificateNumber, Signature
from reckoner.store.terms import EventKind, RegisterKind
from tests.support.runs import TODAY, later, outside, tool_id

HC = "HC-0417"


def words(pdf):
    return [page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages]


def placed(pdf, wanted):
    """Where a text stands on the first page, in mm from its left and upper edge."""
    found = []

    def visit(text, cm, matrix, _font, _size):
        if text.strip() == wanted:
            found.append(((cm[4] + matrix[4]) / MM, (cm[5] + matrix[5]) / MM))

    page = PdfReader(io.BytesIO(pdf)).pages[0]
    page.extract_text(visitor_text=visit)
    return [(x, float(page.mediabox.height) / MM - y) for x, y in found]


def test_sizes_are_read_and_what_is_none_is_refused_in_words():
    single, _, sheet, gaps = read_sizes("")
    assert (single.wide, single.high, single.sheet, single.a_sheet) == (50, 25, None, 1)
    assert (sheet.a_sheet, sheet.corner(0), sheet.corner(4)) == (24, (0, 8.5), (70, 43.5))
    assert gaps.gap == (2.5, 0)
    assert read_sizes("letter: 2 x 5 of 101,6 x 50.8 gap 4 x 0")[0].corner(1)[0] == pytest.approx(215.9 / 2 + 2)
    assert read_sizes(USUAL) == read_sizes("")
    for text, said in (
        ("fifty", "is no size"),
        ("A4: 4 x 8 of 70 x 35", "does not fit"),
        ("4 x 4", "10 to 300 mm"),
        ("A4: 0 x 8 of 70 x 35", "10 to 300"),
    ):
        with pytest.raises(InputRefused, match=said):
            read_sizes(text)


def test_labels_are_as_large_as_they_say_and_stand_where_the_sheet_has_them(demo):
    single, _, sheet, _ = read_sizes("")
    label = Label("HC-0417", ("40–200 N·m", "due 6 Dec 2026"), "HC-0417", State.INSIDE, marked=True)
    page = PdfReader(io.BytesIO(labels_pdf([label, label], single))).pages
    assert len(page) == 2
    assert [float(page[0].mediabox.width) / MM, float(page[0].mediabox.height) / MM] == pytest.approx([50, 25])
    on_sheet = labels_pdf([replace(label, number=f"T-{i}") for i in range(25)], sheet, first=4)
    assert len(words(on_sheet)) == 2
    ((x, y),) = placed(on_sheet, "T-0")
    assert 70 < x < 140
    assert 43.5 < y < 43.5 + 35
    assert "T-19" in words(on_sheet)[0]
    assert "T-20" in words(on_sheet)[1]
    with pytest.raises(ValueError, match="24"):
        labels_pdf([label], sheet, first=24)


def test_a_label_says_what_its_tool_may_be_used_for(demo, act):
    with demo.session() as session:
        reader, wanted = reader_of(session), tool_id(demo, HC)
        fine = tool_label(card(reader, wanted), TODAY)
        assert fine.banner == ""
        assert any(line.startswith("due ") for line in fine.lines)
        record_event(session, wanted, EventKind.HELD, "handle slack", act)
        held = tool_label(card(reader_of(session), wanted), TODAY)
        assert held.banner == "HELD: DO NOT USE"
        assert not any(line.startswith("due ") for line in held.lines)
        assert "HELD: DO NOT USE" in words(labels_pdf([held], read_sizes("")[0]))[0]
        record_event(session, wanted, EventKind.RELEASED, "", act)
        record_event(session, wanted, EventKind.RESTRICTED, "", act, part=(40.0, 120.0))
        assert tool_label(card(reader_of(session), wanted), TODAY).banner.replace("\u202f", " ") == "ONLY 40–120 N·m"
        assert {label.number for label in tool_labels(reader_of(session), "0417", TODAY)} == {HC}
        assert all("DO NOT USE" in label.banner for label in tool_labels(reader_of(session), "held", TODAY))
        assert [label.number for label in reference_labels(reader_of(session), "pm-5")] == ["PM-5"]
        edit(session, RegisterKind.SHOP, the_shop(session), {"label_sizes": "30 x 15"}, act)
        assert [size.name for size in sizes(reader_of(session))] == ["30 × 15 mm"]


@pytest.mark.parametrize(
    ("scheme", "said"),
    [("{year}", "needs {n} or {run}"), ("{nr}", "is none of"), ("{n", "opens nothing"), ("{n}}", "opens nothing")],
)
def test_a_scheme_that_cannot_number_is_refused(scheme, said):
    with pytest.raises(InputRefused, match=said.replace("{", r"\{").replace("}", r"\}")):
        read_scheme(scheme)


def test_certificates_are_numbered_as_the_shop_says_and_keep_their_number(demo, act):
    with demo.session() as session:
        edit(session, RegisterKind.SHOP, the_shop(session), {"numbering": "HCW {year}/{n:3}"}, act)
        signed = []
        for i, number in enumerate((HC, "HC-0418")):
            run = outside(session, tool_id(demo, number), act)
            signed.append(signing.sign(session, run.id, later(act, 2 + i)))
        assert [certificate_number(run) for run in signed] == ["HCW 2026/001", "HCW 2026/002"]
        assert certificate_of(session, signed[1]).number == "HCW 2026/002"
        edit(session, RegisterKind.SHOP, the_shop(session), {"numbering": ""}, act)
        assert certificate_number(load(session, signed[0].id)) == "HCW 2026/001"
        assert [r.number for r in results(reader_of(session), "hcw 2026/002")] == ["HCW 2026/002"]
    assert read_scheme("{tool}-{year}{month}-{run:5}")[1] == "such as HC-0417-202611-00133"


@pytest.mark.parametrize("hours", [13, 0, -12])
def test_the_year_of_a_number_is_that_of_the_place_and_no_two_are_alike(demo, act, hours):
    place = timezone(timedelta(hours=hours))
    with demo.session() as session:
        edit(session, RegisterKind.SHOP, the_shop(session), {"numbering": "{year}/{n:3}"}, act)
        signed = []
        for at, number in (
            (datetime(2026, 12, 31, 8), HC),
            (datetime(2027, 1, 1, 8), "HC-0418"),
            (datetime(2027, 1, 1, 9), HC),
        ):
            run = outside(session, tool_id(demo, number), act)
            signed.append(signing.sign(session, run.id, replace(act, at=at.replace(tzinfo=place))))
        assert [certificate_number(run) for run in signed] == ["2026/001", "2027/001", "2027/002"]
        numbered = select(Signature.id).where(~Signature.numbered.has())
        session.add(CertificateNumber(signature_id=session.scalar(numbered) or 10_000, year=2027, n=2, number="other"))
        with pytest.raises(IntegrityError, match="UNIQUE"):
            session.flush()
        session.rollback()


def test_a_number_that_another_scheme_gave_is_not_given_again(demo, act, monkeypatch):
    def signed(number, scheme):
        edit(session, RegisterKind.SHOP, the_shop(session), {"numbering": scheme}, act)
        run = outside(session, tool_id(demo, number), act)
        return run.id, certificate_number(signing.sign(session, run.id, later(act, 2)))

    with demo.session() as session:
        run_id, given = signed(HC, "C-{run}")
        assert given == f"C-{run_id}"
        counted = [f"C-{str(run_id)[:-1]}{n}" for n in range(1, 11)]
        following = next(number for number in counted if number != given)
        assert signed("HC-0418", f"C-{str(run_id)[:-1]}{{n}}")[1] == following
        monkeypatch.setattr(numbering, "made", lambda *_: given)  # as a run's number may be that which was counted to
        assert signed(HC, "Z-{run}")[1] == f"{given}-2"
        session.rollback()


def test_a_scheme_without_the_year_counts_on_over_the_years(demo, act):
    with demo.session() as session:
        numbers, before = [], ""
        for year, scheme in ((2026, "Z-{n}"), (2027, "Z-{n}"), (2027, "{year}/{n}"), (2027, "Z-{n}")):
            if scheme != before:
                edit(session, RegisterKind.SHOP, the_shop(session), {"numbering": scheme}, act)
            before = scheme
            run = outside(session, tool_id(demo, HC), act)
            signed = signing.sign(session, run.id, replace(act, at=act.at.replace(year=year, month=12)))
            numbers.append(certificate_number(signed))
        assert numbers == ["Z-1", "Z-2", "2027/3", "Z-4"]
