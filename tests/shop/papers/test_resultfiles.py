"""A result file is held against all that follows from it; what cannot be derived stands by the digest alone, and is named."""

from datetime import date, timedelta

import pytest
from click.testing import CliRunner
from sqlalchemy import select

from reckoner.cli.main import make_command
from reckoner.formats import resultfile
from reckoner.shop.papers.resultfiles import recomputed, result_file
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.runs.loading import load
from reckoner.store.schema import Signature


@pytest.fixture
def files(demo):
    """The file of every signed run of the demo that judged its tool."""
    found = []
    with demo.session() as session:
        for run_id in session.scalars(select(Signature.run_id).order_by(Signature.run_id)):
            try:
                found.append(result_file(session, load(session, run_id)))
            except ShopRefused:
                continue
    return found


def tampered(file, **changes):
    """Another record under a digest of its own: what someone with a text editor and patience makes."""
    signature = file.record.signature.model_copy(update=changes.pop("signature", {}))
    return resultfile.packed(file.record.model_copy(update=changes | {"signature": signature}), file.issued_by)


def test_every_signed_run_is_derived_whole_and_what_was_changed_is_named(files):
    assert len(files) > 20
    assert [said for file in files for said in recomputed(file)[1]] == []
    released = next(f for f in files if f.record.accepted and f.record.signature.due)
    held = next(f for f in files if f.record.accepted is False)
    for file, changes, said in (
        (held, {"formal": released.record.formal}, "the formal statement"),
        (held, {"statement": released.record.statement}, "the statement"),
        (held, {"accepted": True}, "accepted"),
        (held, {"signature": {"outcome": "released", "due": date(2027, 5, 1)}}, "released"),
        (released, {"signature": {"due": released.record.signature.due + timedelta(days=365)}}, "due again"),
        (released, {"points": released.record.points[1:]}, "no result is in the file"),
    ):
        assert any(said in sentence for sentence in recomputed(tampered(file, **changes))[1]), said


def test_the_command_says_what_stands_by_the_digest_alone(files, tmp_path):
    path = tmp_path / "one.json"
    resultfile.write(path, files[0])
    command = make_command(lambda _o: 0)
    told = CliRunner().invoke(command, ["verify", str(path)])
    assert told.exit_code == 0, told.output
    for words in (
        "its serial and its owner",
        "the room",
        "compare the digest with the one on the paper",
        files[0].digest,
    ):
        assert words in told.output
    resultfile.write(path, tampered(files[0], formal="Conforms."))
    told = CliRunner().invoke(command, ["verify", str(path)])
    assert (told.exit_code, "the formal statement would be" in told.output) == (1, True)
