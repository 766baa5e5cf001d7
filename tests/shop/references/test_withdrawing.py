"""A certificate that was kept by mistake is taken back; one that runs were judged by is superseded, and the runs stay."""

from datetime import timedelta

import pytest

from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.references.register import reference_lines, reference_sheet
from reckoner.shop.register.adding import CertificateDraft, certify, judged_by, take_back_certificate
from reckoner.shop.runs import signing
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.store.reader import reader_of
from reckoner.store.schema import Reference
from tests.support.runs import TODAY, later, outside, tool_id


def meter(session):
    return session.query(Reference).filter_by(number="PM-5").one()


def test_a_mistaken_certificate_counts_no_more_and_the_one_before_does(demo, act):
    with demo.session() as session:
        before = reference_sheet(session, meter(session).id, TODAY).certificates[0]
        undated = CertificateDraft(None, TODAY + timedelta(days=30), ((20.0, 0.0, 0.003), (500.0, 0.0, 0.003)))
        certify(session, meter(session).id, undated, act)
        session.expire_all()
        assert (
            reference_sheet(session, meter(session).id, TODAY).certificates[0].id == before.id
        )  # issued about a year ago
        mistaken = CertificateDraft(TODAY, TODAY + timedelta(days=900), ((20.0, 0.0, 0.001), (500.0, 0.0, 0.001)))
        certify(session, meter(session).id, mistaken, act)
        session.expire_all()
        wrong = reference_sheet(session, meter(session).id, TODAY).certificates[0]
        assert (wrong.counts, wrong.judged, wrong.number, wrong.laboratory) == (True, 0, "", "")
        with pytest.raises(ShopRefused, match="Say why"):
            take_back_certificate(session, wrong.id, " ", act)
        take_back_certificate(session, wrong.id, "of another meter", act)
        session.expire_all()
        back, counts = reference_sheet(session, meter(session).id, TODAY).certificates[:2]
        assert (back.withdrawn, back.counts, counts.id, counts.counts) == ("of another meter", False, before.id, True)
        (line,) = [line for line in reference_lines(reader_of(session)) if line.name == "PM-5"]
        assert f"certificate to {before.due:%-d %b %Y}" in line.detail
        with pytest.raises(ShopRefused, match="taken back already"):
            take_back_certificate(session, wrong.id, "again", act)


def test_one_that_runs_were_judged_by_is_superseded_and_they_stay(demo, act):
    with demo.session() as session:
        run = outside(session, tool_id(demo, "HC-0417"), act)
        counted = run.reference.certificate_id
        with pytest.raises(ShopRefused, match="HC-0417 is on the bench with it"):
            take_back_certificate(session, counted, "a misprint", act)
        signed = signing.sign(session, run.id, later(act, 2))
        found, paper = judged(signed).verdict, certificate_of(session, signed)
        assert judged_by(session, counted) > 0
        take_back_certificate(session, counted, "a misprint", later(act, 3))
        session.expire_all()
        again = load(session, run.id)
        assert (judged(again).verdict, certificate_of(session, again)) == (found, paper)
        assert reference_sheet(session, meter(session).id, TODAY).facts.certificate_id != counted
