"""The command's calculators: the contract, and that no input whatever ends in a traceback or a number that is none."""

import copy
import json
import re
import subprocess
import sys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import UNITS, Kind
from reckoner.formats import validation
from reckoner.formats.calculators import CALCULATORS, calculate, calculate_text

EXAMPLES = {case.calculator: case.request for case in reversed(validation.cases()) if "trials" not in case.request}
RICH = {case.name: case for case in validation.cases() if case.calculator != "trace" and "trials" not in case.request}
NASTY = (
    "",
    "abc",
    "0 N.m",
    "-1 N.m",
    "0 mm",
    "NaN",
    "1e9 N.m",
    "12 parsec",
    "5",
    None,
    True,
    0,
    -1,
    1e9,
    10**400,
    [],
    {},
)


def leaves(value, path=()):
    """Paths to everything in a request, containers included."""
    if path:
        yield path
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        yield from leaves(inner, (*path, key))


def changed(request, path, value):
    made = copy.deepcopy(request)
    holder = made
    for step in path[:-1]:
        holder = holder[step]
    holder[path[-1]] = value
    return made


def outcome(name, text):
    """The answer, every number in it finite, or the sentence of the refusal."""
    try:
        return json.loads(calculate_text(name, text), parse_constant=pytest.fail)
    except InputRefused as refusal:
        return str(refusal)


def test_every_calculator_stands_in_the_validation_pack():
    assert set(EXAMPLES) == set(CALCULATORS)


@pytest.mark.parametrize("name", sorted(RICH))
def test_any_wrong_value_anywhere_gives_an_answer_or_one_line_that_names_the_field(name):
    case = RICH[name]
    for path in leaves(case.request):
        for nasty in NASTY:
            said = outcome(case.calculator, json.dumps(changed(case.request, path, nasty)))
            assert isinstance(said, dict) or re.fullmatch(r"[^\n:]+: [^\n]+", said), (path, nasty, said)


@pytest.mark.parametrize(
    ("name", "text", "sentence"),
    [
        ("compare", '{"before": ["1 N.m", "2 N.m", "abc"]}', 'before[2]: "abc" is not a torque'),
        ("lever", '{"length": "320 mm", "colour": 1}', "colour: is not a known key here"),
        ("lever", '{"length": 320}', 'length: write it as text with its unit, such as "412 mm"'),
        ("lever", '{"length": "320"}', 'length: "320" has no unit'),
        ("lever", '{"length": "1 m", "length": "2 m"}', "length: is given twice"),
        ("lever", '{"length": NaN}', "request: holds NaN"),
        ("lever", '{"length": "1 m", "want": "1 MN.m"}', "meganewton"),
        ("lever", "[1]", "request: must be one JSON object"),
        ("lever", "{", "request: is not JSON (line 1"),
        ("lever", "[" * 100_000, "request: is nested too deeply"),
        ("spanner", "{}", 'name: there is no calculator "spanner"'),
        ("deadweight", '{"mass": "12 kg", "length": "1 m", "latitude": "46 deg"}', "elevation: is missing"),
        ("deadweight", '{"mass": "12 kg", "length": "1 m", "own_mass": "1 kg"}', "own_centre: is missing"),
        ("drift", '{"limit_percent": 4, "results": [{"date": "soon", "deviation_percent": 1}]}', "results[0].date"),
        ("interval", '{"method": "staircase", "months": 12}', "deviation_percent: is missing"),
        ("trace", '{"csv": "nowhere.csv"}', 'csv: "nowhere.csv" cannot be read'),
    ],
)
def test_refusals_say_which_field_and_why(name, text, sentence):
    with pytest.raises(InputRefused) as caught:
        calculate_text(name, text)
    assert sentence in str(caught.value)


@given(st.sampled_from([u for u in UNITS if u.kind is Kind.TORQUE]), st.floats(1e-3, 1e2))
def test_the_answer_is_written_in_the_unit_asked_for_and_units_go_round(unit, torque):
    found = calculate("lever", {"length": "320 mm", "want": f"{torque!r} {unit.name}", "unit": unit.name})
    assert found["setting"] == pytest.approx(torque, rel=1e-12)
    there = calculate("convert", {"quantity": f"{torque!r} {unit.name}", "to": "N.m"})["value"]
    back = calculate("convert", {"quantity": f"{there!r} N.m", "to": unit.name})["value"]
    assert back == pytest.approx(torque, rel=1e-12)


def test_a_trace_is_read_from_a_file_with_its_unit_in_the_header(tmp_path):
    samples = EXAMPLES["trace"]["samples"]
    (direct,) = calculate("trace", {"samples": samples, "target": "90 N.m"})["events"]
    file = tmp_path / "pull.csv"
    file.write_text("time_s;torque [cN.m]\n" + "\n".join(f"{t};{x * 100:.4f}".replace(".", ",") for t, x in samples))
    (from_file,) = calculate("trace", {"csv": str(file), "target": "90 N.m"})["events"]
    assert from_file["first_peak"] == pytest.approx(direct["first_peak"], rel=1e-6)
    assert from_file["faults"] == direct["faults"]
    for text, words in (("", "is empty"), ("time_s,torque\n0,1", "names no unit"), ("a,b\n", "needs the columns")):
        file.write_text(text)
        with pytest.raises(InputRefused, match=words):
            calculate("trace", {"csv": str(file)})
    file.write_text("time_s,torque_N.m\n0,1\n1\n")
    with pytest.raises(InputRefused, match="csv: line 3 does not hold"):
        calculate("trace", {"csv": str(file)})


def test_running_numbers_say_what_a_trace_has_lost(tmp_path):
    samples = [[n, t, x] for n, (t, x) in enumerate(EXAMPLES["trace"]["samples"])]
    (whole,) = calculate("trace", {"samples": samples})["events"]
    (less,) = calculate("trace", {"samples": [*samples[:20], *samples[22:]]})["events"]
    assert (whole["faults"], less["faults"]) == (["too fast"], ["too fast", "samples lost"])
    assert less["first_peak"] == pytest.approx(whole["first_peak"], rel=1e-3)
    file, top = tmp_path / "pull.csv", max(range(len(samples)), key=lambda n: samples[n][2])
    left = [*samples[: top - 3], *samples[top + 3 :]]
    file.write_text("number,time_s,torque_N.m\n" + "\n".join(f"{n},{t},{x}" for n, t, x in left))
    (over,) = calculate("trace", {"csv": str(file)})["events"]
    assert (over["first_peak"], "samples lost" in over["faults"]) == (None, True)
    for wrong, words in (
        ([*samples[:30], [29, 1.0, 0.0]], "not higher"),
        ([samples[0], samples[1][1:]], "or none has"),
    ):
        with pytest.raises(InputRefused, match=words):
            calculate("trace", {"samples": wrong})


def run(*arguments, stdin=""):
    return subprocess.run([sys.executable, "-m", "reckoner", *arguments], input=stdin, capture_output=True, text=True)


def test_the_command_answers_on_standard_output_and_refuses_on_one_line_with_status_2(tmp_path):
    good = run("calc", "gravity", stdin='{"latitude": "46.6 deg", "elevation": "1850 m"}')
    assert good.returncode == 0
    assert json.loads(good.stdout)["gravity"] == pytest.approx(9.801936, abs=5e-7)
    bad = run("calc", "gravity", stdin='{"latitude": "95 deg", "elevation": "0 m"}')
    assert (bad.returncode, bad.stdout) == (2, "")
    assert bad.stderr == "latitude: must lie between -90 and 90 deg, not 95\n"
    assert run("calc", "gravity", str(tmp_path / "none.json")).stderr.endswith("No such file or directory\n")
    script = "import sys\nfrom reckoner.formats.calculators import calculate\n" + "".join(
        f"calculate({name!r}, {request!r})\n" for name, request in EXAMPLES.items() if name != "trace"
    )
    script += "print(sorted({'PyQt6', 'sqlalchemy', 'scipy.stats'} & set(sys.modules)))"
    assert subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True).stdout == "[]\n"


def test_verify_reproduces_every_result_and_says_so_when_it_does_not(monkeypatch):
    from click.testing import CliRunner

    from reckoner.cli.verify import verify

    good = CliRunner().invoke(verify)
    assert good.exit_code == 0, good.output
    assert re.search(r"\b(\d+) of \1 results reproduced", good.output)
    monkeypatch.setattr("reckoner.formats.calculators.fields.STANDARD_GRAVITY", 9.81)
    bad = CliRunner().invoke(verify)
    assert bad.exit_code == 1
    assert "MISSED" in bad.output


def test_verify_recomputes_every_signed_run_of_a_shop_and_names_what_was_tampered_with(demo_folder, tmp_path):
    import sqlite3

    from reckoner.store.database import FILE

    good = run("verify", "--runs", "--data", str(demo_folder))
    assert good.returncode == 0, good.stderr
    assert re.search(r"(\d+) of \1 numbers of \d+ signed runs", good.stdout)
    with sqlite3.connect(demo_folder / FILE) as connection:
        with pytest.raises(sqlite3.IntegrityError, match="a record is never changed: observation"):
            connection.execute("UPDATE observation SET torque = torque * 1.01 WHERE id = 1")
        connection.execute("DROP TRIGGER guard_observation_update")
        connection.execute("UPDATE observation SET torque = torque * 1.01 WHERE id = 1")
    connection.close()
    bad = run("verify", "--runs", "--data", str(demo_folder))
    assert bad.returncode == 1
    assert "kept was" in bad.stdout
    assert "there is no database" in run("verify", "--runs", "--data", str(tmp_path / "none")).stderr
