"""Certificates read back from their PDF: every figure, every page, and what is refused."""

import io
from dataclasses import replace

import pytest
from PIL import Image
from pypdf import PdfReader
from reportlab.pdfgen.canvas import Canvas

from reckoner.core.quantities.printing import percent
from reckoner.formats.papers.certificate_pdf import certificate_pdf
from reckoner.formats.papers.pdf import A4_MM, LETTER_MM, MM, Face, drawable, write
from reckoner.shop.numbering import certificate_number
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.attachments import attach
from reckoner.shop.register.editing import the_shop
from reckoner.shop.register.rows import edit
from reckoner.shop.runs import amending, opening, setting_up, signing, taking
from reckoner.shop.runs.amending import differences
from reckoner.shop.runs.judging import judged
from reckoner.shop.setups.hanging import torque_words
from reckoner.shop.words.results import torque_figure
from reckoner.store.terms import Outcome, ReadingOwner, RegisterKind, RunKind, ZeroMoment
from tests.shop.runs.test_weights import answered, set_up
from tests.support.runs import closed, later, outside, prepared, read_all, tool_id


def pages(session, run, size=A4_MM):
    """The words of each page, with plain spaces, and the file itself."""
    pdf = PdfReader(io.BytesIO(certificate_pdf(certificate_of(session, run), size)))
    plain = str.maketrans("\u202f\u00a0\u2009\n", "    ")
    return [" ".join(page.extract_text().translate(plain).split()) for page in pdf.pages], pdf


def plain(words):
    return " ".join(words.replace("\u202f", " ").replace("\u00a0", " ").split())


def signed(session, demo, act, factor=0.99):
    run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, factor)
    return signing.sign(session, run.id, later(act, 2))


def test_every_figure_of_a_run_stands_on_one_page_and_the_budget_on_the_next(demo, act):
    with demo.session() as session:
        named = {"name": "A crib of one", "address": "The old hoist\nHarrowmere"}
        edit(session, RegisterKind.SHOP, the_shop(session), named, act)
        run = signed(session, demo, act)
        words, pdf = pages(session, run)
        assert "\x00" not in "".join(words)
        first, second = words
        assert first.endswith("page 1 of 2")
        assert second.endswith("page 2 of 2")
        found = judged(run).verdict
        for series, point in zip(run.series, found.points, strict=True):
            for pair in series.pairs:
                assert plain(torque_figure(run, pair.reference)) in first
            assert plain(percent(point.budget.deviation, 2, sign=True)) in first
            assert plain(percent(point.budget.expanded_uncertainty, 2)) in first
            assert plain(percent(point.budget.uncertainty_interval, 3)) in second
            for part in point.budget.components:
                assert not part.value or plain(percent(part.value, 3)) in second
        for word in (
            run.tool.number, run.tool.serial, run.reference.certificate_number, "21.4 °C", "46 %", run.rules.title,
            "A crib of one", "The old hoist", run.signature.by, run.signature.link, certificate_number(run),
            "no accreditation", "Due again", "Tested", "Issued", "Authorised by", "Where",
            "As received: nothing wrong at 4 points looked over", f"Traceable to the SI by {run.reference.number}",
            run.reference.laboratory, "takes no account of the uncertainty",
        ):  # fmt: skip
            assert plain(word) in first
        assert plain(f"End of certificate {certificate_number(run)}") in second
        assert pdf.metadata.title == f"Test certificate {certificate_number(run)}"
        assert pdf.metadata.author == "A crib of one"
        for page in pdf.pages:
            fonts = [font.get_object() for font in page["/Resources"]["/Font"].values()]
            embedded = [f for f in fonts if "Atkinson" in f["/BaseFont"]]
            assert embedded
            assert all("/FontFile2" in f["/FontDescriptor"].get_object() for f in embedded)


def test_it_is_as_large_as_the_paper(demo, act):
    with demo.session() as session:
        run = signed(session, demo, act)
        for size in (A4_MM, LETTER_MM):
            box = pages(session, run, size)[1].pages[0].mediabox
            assert [float(box.width), float(box.height)] == pytest.approx([side * MM for side in size], abs=0.01)


def test_what_hung_is_drawn_and_told_for_weights(demo, act):
    with demo.session() as session:
        run, _tries = answered(session, set_up(session, "HC-0125", demo, act), act, 0.022)
        run = signing.sign(session, run.id, later(act, 2))
        said = " ".join(pages(session, run)[0])
        lever = run.reference.set_up
        for at in lever.points:
            assert plain(torque_words(lever, at, run.tool.unit)) in said
            assert f"hook {at.hook * 1000:.0f} mm" in said
            assert all(weight.number in said for weight in at.weights)
        assert f"grip mark {lever.grip * 1000:.0f} mm" in said
        assert "(tool) against" in said  # the setting was found, the torque hung


def test_a_remark_may_be_as_long_as_a_person_likes(demo, act):
    long = "the door stood open, " * 300
    with demo.session() as session:
        run = signed(session, demo, act)
        run = replace(run, room=replace(run.room, note=long), plan=replace(run.plan, note=long))
        said = " ".join(pages(session, run)[0])
        assert said.count("the door stood open") == 600
        assert said.count("told below") == 2
        assert "known, and taken off the readings" in said


def test_a_tilt_and_a_disc_are_told(demo, act):
    with demo.session() as session:
        run, _tries = answered(session, set_up(session, "HC-0125", demo, act), act, 0.022)
        run = signing.sign(session, run.id, later(act, 2))
        lever = run.reference.set_up
        tilted, disc = (
            replace(run, facts=replace(run.facts, reference=replace(run.reference, set_up=hung)))
            for hung in (replace(lever, tilt=0.035), replace(lever, disc=True, own_mass=0.0, pivot=0.0))
        )
        assert "It stood 2.0° off level, which is counted." in " ".join(pages(session, tilted)[0])
        said = pages(session, disc)[0]
        assert "hung from the rim of a disc, 109 mm in radius" in said[0]
        assert "grip mark" not in " ".join(said)


def test_what_the_typeface_lacks_is_written_otherwise_and_never_as_a_box():
    assert drawable("⅜ in, W′ 2\u202f% → ±1 °C") == "3/8 in, W' 2\u00a0% to ±1 °C"
    assert drawable("Ψ Ключ 工") == "Ψ Ключ ?"
    canvas = Canvas(made := io.BytesIO())
    write(canvas, 100, 100, "HC-1 Ключ Ψ", Face.BOLD, 12, 0.5)
    canvas.save()
    page = PdfReader(made).pages[0]
    assert page.extract_text().split() == ["HC-1", "Ключ", "Ψ"]
    fonts = [str(font.get_object()["/BaseFont"]) for font in page["/Resources"]["/Font"].values()]
    assert sum("NotoSans" in name or "Atkinson" in name for name in fonts) == 2


def test_a_restriction_stands_on_the_certificate(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        run = signing.sign(session, run.id, later(act, 2), Outcome.RESTRICTED)
        said = pages(session, run)[0][0]
        assert "Restricted to 120–200 N·m: it is not to be used for other torques." in said


def test_a_tool_outside_is_told_so_and_an_amendment_names_the_earlier(demo, act):
    with demo.session() as session:
        first = signed(session, demo, act, 0.93)
        said = pages(session, first)[0][0]
        assert "It must not be used" in said or "held" in said.lower()
        assert "Does not conform" in said
        again = amending.amend(session, first.id, "the room was misread", later(act, 3))
        assert differences(first, again) == ()
        again = setting_up.record_room(session, again.id, 22.0, 0.46, "", later(act, 3))
        struck = again.series[0].observations[0]
        again = taking.strike(session, again.id, (struck.id,), "jerked", later(act, 3))
        again = taking.observe(session, again.id, taking.typed(40.0 * again.correction(40.0)), later(act, 3))
        again = taking.keep(session, again.id, again.asked[0].ids, ReadingOwner.UNSAID, later(act, 3))
        again = setting_up.record_zero(session, again.id, ZeroMoment.AFTER, 0.0, later(act, 3))
        again = signing.sign(session, again.id, later(act, 4))
        said = [plain(words) for words in differences(first, again)]
        assert said[0] == "the temperature is 22 °C instead of 21.4 °C"
        assert said[1].startswith("as found at 40 N·m 37.2")
        assert said[1].endswith("was struck")
        assert said[2] == "as found at 40 N·m 40 N·m was added"
        assert "as found at 40 N·m the mean deviation is" in said[3]
        assert "the temperature is 22 °C instead of 21.4 °C" in pages(session, again)[0][0]
        assert certificate_number(first) in pages(session, again)[0][0]
        assert "the room was misread" in pages(session, again)[0][0]
        assert "A later amendment replaces this record" in pages(session, opening.reload(session, first.id, act))[0][0]


def test_a_run_that_is_not_signed_has_none(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        with pytest.raises(ShopRefused, match="Sign the run first"):
            certificate_of(session, run)
        run = taking.observe(session, run.id, taking.typed(run.current.target), act)
        with pytest.raises(ShopRefused, match="Sign the run first"):
            certificate_of(session, run)


def test_a_characterisation_has_none(demo, act):
    with demo.session() as session:
        run = replace(signed(session, demo, act), kind=RunKind.CHARACTERISE)
        with pytest.raises(ShopRefused, match="A characterisation has no certificate"):
            certificate_of(session, run)


def test_the_shop_s_picture_stands_at_the_head_and_what_is_no_picture_is_refused(demo, act):
    made = io.BytesIO()
    Image.new("RGB", (300, 60), (20, 60, 90)).save(made, "PNG")
    with demo.session() as session:
        shop = the_shop(session)
        run = signed(session, demo, act)
        assert certificate_of(session, run).logo == b""
        for name, data in (("logo.png", b"GIF89a no"), ("Logo.jpg", made.getvalue()[:-40]), ("logo.svg", b"<svg/>")):
            with pytest.raises(ShopRefused, match="no picture that can be printed"):
                attach(session, RegisterKind.SHOP, shop, name, data, act)
        attach(session, RegisterKind.SHOP, shop, "letter.txt", b"any file", act)
        attach(session, RegisterKind.SHOP, shop, "Logo.png", made.getvalue(), act)
        assert certificate_of(session, run).logo == made.getvalue()
        words, pdf = pages(session, run)
        (picture,) = pdf.pages[0].images
        assert picture.image.size == (300, 60)
        assert words[0].endswith("page 1 of 2")


def test_reasons_that_were_typed_at_the_bench_stand_on_the_paper(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        run = taking.strike(session, run.id, (run.series[0].observations[0].id,), "the hand slipped", act)
        run = closed(session, taking.observe(session, run.id, taking.typed(37.2), act), act)
        signed = signing.sign(session, run.id, later(act, 2))
        paper = certificate_of(session, signed)
        assert "One reading was struck: the hand slipped." in paper.remarks


def test_what_nobody_knows_is_left_out_of_a_newcomers_certificate(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        signed = signing.sign(session, run.id, later(act, 2))
        bare = replace(signed.tool, maker="", model=f"click wrench, {signed.tool.range_text}", owner="")
        unnamed = replace(signed.reference, certificate_number="", laboratory="", issued=None)
        paper = certificate_of(session, replace(signed, facts=replace(signed.facts, tool=bare, reference=unnamed)))
        lines = {name: words for _, block in paper.blocks for name, words in block if words}
        assert not {"Made by", "Model", "Owner"} & set(lines)
        assert lines["Certificate"].startswith("holds to ")
        assert not any("Traceable" in words for words in paper.notes)
