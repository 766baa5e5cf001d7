"""The digital certificate: valid by the schema that ships, every figure in it, the files inside whole, and what is none
refused without anything being fetched."""

import base64
import io
from datetime import date

import pytest
from pypdf import PdfReader

from reckoner.core.errors import OurFault
from reckoner.formats import resultfile
from reckoner.formats.papers import dcc
from reckoner.formats.papers.dcc import DCC, SI, XmlRefused, read
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.papers.digital import digital_certificate
from reckoner.shop.papers.resultfiles import recomputed, result_file
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs import signing
from reckoner.shop.runs.judging import judged
from tests.support.runs import later, outside, prepared, read_all, tool_id

NS = {"dcc": DCC, "si": SI}


def xml_of(session, run):
    return digital_certificate(run, certificate_of(session, run), result_file(session, run))


@pytest.fixture
def made(demo, act):
    with demo.session() as session:
        run = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        run = signing.sign(session, run.id, later(act, 2))
        return run, xml_of(session, run)


def texts(root, path):
    return [found.text for found in root.findall(path, NS)]


def test_every_figure_stands_in_it_with_its_uncertainty_and_coverage(made):
    run, data = made
    root = read(data)
    assert texts(root, ".//dcc:uniqueIdentifier") == [f"2026-{run.id:05}"]
    assert texts(root, ".//dcc:statement/dcc:conformity") == ["pass"]
    points = judged(run).verdict.points
    reals = root.findall(".//dcc:result/dcc:data/dcc:quantity/si:real", NS)
    for real, point in zip(reals, points, strict=True):
        assert float(real.findtext("si:value", None, NS)) == point.budget.deviation
        assert float(real.findtext(".//si:uncertainty", None, NS)) == point.budget.expanded_uncertainty
        assert float(real.findtext(".//si:coverageFactor", None, NS)) == point.budget.coverage_factor
    lists = texts(root, ".//si:valueXMLList")
    assert tuple(float(v) for v in lists[1].split()) == points[0].budget.observations.reference
    assert set(texts(root, ".//si:unitXMLList")) == {dcc.NEWTON_METRE}
    assert "HC-0417" in texts(root, ".//dcc:identification/dcc:value")


def test_the_paper_and_the_result_file_are_inside_and_whole(made):
    _run, data = made
    (pdf,) = (base64.b64decode(t) for t in texts(read(data), "dcc:document/dcc:dataBase64"))
    assert "Test certificate" in PdfReader(io.BytesIO(pdf)).pages[0].extract_text()
    (file,) = (base64.b64decode(t) for t in texts(read(data), ".//dcc:byteData/dcc:dataBase64"))
    found = resultfile.from_text(file.decode(), "inside")
    assert recomputed(found)[1] == ()


@pytest.mark.parametrize(
    ("change", "said"),
    [
        (lambda d: b"<a", "not XML that can be read"),
        (lambda d: d.replace(b"expandedUnc", b"doubt"), "no certificate of this kind"),
        (lambda d: d.replace(b"<si:value>", b"<si:value>about "), "no certificate of this kind"),
        (lambda d: d.replace(b"dcc:customer>", b"dcc:client>"), "no certificate of this kind"),
        (
            lambda d: d.replace(b"?>", b'?><!DOCTYPE x [<!ENTITY f SYSTEM "file:///etc/hostname">]>', 1).replace(
                b">Reckoner<", b">&f;<"
            ),
            "declares a document type or entities",
        ),
    ],
)
def test_what_is_no_certificate_is_refused_and_nothing_is_fetched(made, change, said):
    with pytest.raises(XmlRefused, match=said):
        read(change(made[1]))


def test_what_does_not_follow_the_schema_is_never_written():
    attached = dcc.Attached("a.pdf", "application/pdf", b"x")
    nothing_measured = dcc.DigitalCertificate(
        "1", "Reckoner", "0", date(2026, 1, 1), date(2026, 1, 1), "wrench", "", "", (("owner", "1"),), "shop", "", ("K. L.",),
        "rule", "PM-5", (), ("said",), "", (), attached, attached,
    )  # fmt: skip
    with pytest.raises(OurFault, match="Missing child element"):
        dcc.written(nothing_measured)


def test_a_tool_that_fails_is_said_to_and_a_shop_check_has_none(demo, act):
    from sqlalchemy import delete

    from reckoner.store.migrate import lowered
    from reckoner.store.schema import Certificate, CertificatePointRow

    with demo.session() as session:
        run = signing.sign(session, outside(session, tool_id(demo, "HC-0417"), act).id, later(act, 2))
        assert "fail" in texts(read(xml_of(session, run)), ".//dcc:statement/dcc:conformity")
    with demo.engine.begin() as connection, lowered(connection):
        for table in (CertificatePointRow, Certificate):
            connection.exec_driver_sql("UPDATE set_up SET certificate_id = NULL")
            connection.execute(delete(table))
    with demo.session() as session:
        run = signing.sign(session, outside(session, tool_id(demo, "HC-0418"), act).id, later(act, 2))
        with pytest.raises(ShopRefused, match="no digital certificate"):
            xml_of(session, run)
