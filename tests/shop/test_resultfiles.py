"""The result file: written, read back, recomputed without a database, and refused in words when it is not what it was."""

import contextlib
import json
import random
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from reckoner.formats import resultfile
from reckoner.formats.resultfile import ResultRefused, digest_of
from reckoner.shop.acts import ShopRefused
from reckoner.shop.certificates import certificate_of
from reckoner.shop.resultfiles import recomputed, record_of, result_file, run_of
from reckoner.shop.resultrows import COLUMNS, rows_of
from reckoner.shop.runs import signing, taking
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import load
from reckoner.store.terms import RunKind
from tests.support.runs import closed, later, outside, prepared, read, tool_id

HC = "HC-0417"


@pytest.fixture
def signed(demo, act):
    """A run with a struck reading, signed."""
    with demo.session() as session:
        run = prepared(session, tool_id(demo, HC), act)
        run = read(session, run, 39.0, act)
        run = taking.strike(session, run.id, (run.series[0].observations[0].id,), "jerked", act)
        while run.current is not None:
            run = read(session, run, run.current.target * (1.01 + 0.001 * len(run.current.pairs)), act)
        return signing.sign(session, closed(session, run, act).id, later(act, 1))


@pytest.fixture
def file(demo, signed):
    with demo.session() as session:
        return result_file(session, load(session, signed.id))


def test_what_was_written_is_read_back_and_every_number_comes_out_again(file, signed, tmp_path):
    path = tmp_path / "result.json"
    resultfile.write(path, file)
    again = resultfile.read(path)
    assert again == file
    numbers, otherwise = recomputed(again)
    assert (numbers, otherwise) == (3 * 7 + 2, ())
    run = run_of(again)
    assert judged(run).verdict == judged(signed).verdict
    assert [o.struck for o in run.series[0].observations][:2] == ["jerked", ""]


def test_the_certificate_bears_the_digest_of_the_file_whenever_it_is_written(demo, file, signed):
    with demo.session() as session:
        run = load(session, signed.id)
        paper = certificate_of(session, run)
        assert dict(paper.signatures)["Result file"] == f"SHA-256 {file.digest}"
        assert file.digest in paper.mark
        session.connection().exec_driver_sql("UPDATE shop SET name = 'Elsewhere'")  # a shop may move
        moved = result_file(session, load(session, signed.id))
        assert (moved.issued_by, moved.digest) == ("Elsewhere", file.digest)


@pytest.mark.parametrize(
    "change",
    [
        lambda r: r["series"][0]["observations"][1].update(torque=40.0),
        lambda r: r["series"][0].update(target=41.0),
        lambda r: r["points"][0].update(deviation=0.0),
        lambda r: r["facts"]["tool"].update(resolution=9.0),
        lambda r: r["facts"]["reference"]["certificate"]["points"][0].__setitem__(1, 0.01),
        lambda r: r["signature"].update(by="X. Y."),
        lambda r: r.update(statement="Fine"),
        lambda r: r["look_over"][0].update(fine=False),
        lambda r: r["zeros"].update(after=1.0),
    ],
)
def test_a_changed_byte_of_any_kind_is_found(file, change):
    raw = json.loads(resultfile.written(file))
    change(raw["record"])
    with pytest.raises(ResultRefused, match="changed after it was written"):
        resultfile.from_text(json.dumps(raw), "r.json")


def test_who_writes_a_new_digest_is_found_by_the_numbers(file):
    raw = json.loads(resultfile.written(file))
    raw["record"]["points"][0]["deviation"] = 0.0
    raw["record"]["accepted"] = None
    raw["digest"] = digest_of(resultfile.ResultRecord.model_validate(raw["record"]))
    _, otherwise = recomputed(resultfile.from_text(json.dumps(raw), "r.json"))
    assert [words.split(": ")[-1].split(" ")[0] for words in otherwise] == ["deviation", "accepted"]


def refused(text):
    with pytest.raises(ResultRefused) as caught:
        recomputed(resultfile.from_text(text, "r.json"))
    return str(caught.value)


def test_what_is_no_result_is_refused_in_a_sentence(file, tmp_path):
    whole = json.loads(resultfile.written(file))
    assert "it is not JSON" in refused("{")
    assert "it is no result file" in refused("[1]")
    assert "newer Reckoner (version 9)" in refused(json.dumps(whole | {"version": 9}))
    assert "nested too deeply" in refused("[" * 100_000)
    assert "record.kind: field required" in refused(
        json.dumps(whole | {"record": {k: v for k, v in whole["record"].items() if k != "kind"}})
    )
    assert "not permitted" in refused(json.dumps(whole | {"more": 1}))
    with pytest.raises(ResultRefused, match="cannot be read"):
        resultfile.read(tmp_path / "none.json")

    def rewritten(**changes):
        raw = {**whole["record"], **changes}
        made = resultfile.ResultRecord.model_validate(raw)
        return json.dumps({**whole, "record": raw, "digest": digest_of(made)})

    assert "party" in refused(rewritten(kind="party"))
    assert "cannot be read" in refused(rewritten(facts={"version": 99}))
    assert "r.json" not in refused(rewritten(facts={}))
    broken = [dict(s) for s in whole["record"]["series"]]
    broken[0]["observations"] = [dict(o, detail='{"half": true') for o in broken[0]["observations"]]
    assert refused(rewritten(series=broken)).endswith(".")


def test_only_signed_runs_that_judged_have_a_file(demo, act, signed):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0418"), act)
        with pytest.raises(ShopRefused, match="signed run"):
            record_of(run)
    with pytest.raises(ShopRefused, match="signed run"):
        record_of(replace(signed, kind=RunKind.CHARACTERISE))


def test_a_recipient_without_a_database_verifies_at_the_command_line(file, tmp_path):
    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    resultfile.write(good, file)
    bad.write_text(good.read_text().replace('"jerked"', '"fine"'))
    command = [sys.executable, "-m", "reckoner", "verify", str(good), str(bad)]
    done = subprocess.run(command, capture_output=True, text=True, env={"HOME": str(tmp_path / "home"), "PATH": ""})
    assert done.returncode == 1
    lines = done.stdout.splitlines()
    assert f"23 of 23 numbers recomputed as they were signed; digest {file.digest}" in lines[0]
    assert lines[1].endswith("its digest is not the one it bears.")
    assert not done.stderr
    assert not list((tmp_path / "home").glob("**/*"))


def test_the_schema_that_is_described_is_the_one_that_is_checked(file):
    kept = json.loads((Path(__file__).parents[2] / "docs" / "result-file.schema.json").read_text())
    assert kept == TypeAdapter(resultfile.ResultFile).json_schema()


def test_readings_are_a_tidy_table(demo, act, signed):
    with demo.session() as session:
        rows = list(rows_of(load(session, signed.id)))
        assert len(rows) == 16
        first = dict(zip(COLUMNS, rows[0], strict=True))
        assert (first["struck"], first["target_Nm"], first["reading"]) == ("jerked", "40", "1")
        assert float(first["deviation_percent"]) == pytest.approx((40 / 39 - 1) * 100)
        assert rows[1][COLUMNS.index("point_state")] == "inside"
        assert list(rows_of(outside(session, tool_id(demo, "HC-0418"), act))) == []


PUT = [
    None,
    0,
    -1,
    1e308,
    1e-320,
    "",
    "x",
    [],
    {},
    True,
    "{",
    float("nan"),
    2**70,
    [1, 2],
    "clicked",
    "weights",
    '{"of": 3}',
]


def places(value, path=()):
    """Every place in a record."""
    yield path
    inside = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, one in inside:
        yield from places(one, (*path, key))


def test_whatever_another_hand_puts_anywhere_is_refused_or_told_and_never_a_fault(file):
    rng, whole = random.Random(11), json.loads(resultfile.written(file))
    every = [path for path in places(whole["record"]) if path]
    refused = 0
    for _ in range(400):
        raw, path = json.loads(json.dumps(whole)), rng.choice(every)
        inside = raw["record"]
        for key in path[:-1]:
            inside = inside[key]
        inside[path[-1]] = rng.choice(PUT)
        with contextlib.suppress(ValueError):  # what no record can be is refused as it stands
            raw["digest"] = digest_of(resultfile.ResultRecord.model_validate(raw["record"]))
        try:
            recomputed(resultfile.from_text(json.dumps(raw), "r.json"))
        except ResultRefused:
            refused += 1
    assert refused > 200
