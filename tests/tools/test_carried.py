"""What is carried is named with its licence, and what could not be looked up is never called sound."""

import json
import sys
from pathlib import Path

import pytest

sys.path.append(str(Path(__file__).parents[2] / "tools"))
from carried import main

ROOT = Path(__file__).parents[2]
MIT = [{"license": {"id": "MIT"}}]


def test_what_is_carried_is_completed_and_a_part_without_a_licence_is_named(tmp_path, capsys):
    path = tmp_path / "sbom.json"
    parts = [
        {"name": "numpy", "licenses": MIT},
        {"name": "pip", "licenses": MIT},
        {"name": "PyQt6-Qt6"},
        {"name": "odd"},
    ]
    path.write_text(json.dumps({"components": parts}))
    assert main(["sbom", str(path)]) == 1
    assert "without a licence: odd" in capsys.readouterr().out
    named = [part["name"] for part in json.loads(path.read_text())["components"]]
    assert named == ["Atkinson Hyperlegible Next", "Noto Sans", "numpy", "odd", "PyQt6-Qt6"]


@pytest.mark.parametrize(
    ("parts", "code", "told"),
    [
        ([{"name": "numpy", "skip_reason": "not found"}], 2, "No network here"),
        ([{"name": "numpy", "version": "2", "vulns": []}], 0, "1 of 1 packages were looked up; known faults: 0"),
        ([{"name": "numpy", "version": "2", "vulns": []}, {"name": "x", "skip_reason": "?"}], 1, "1 of 2 packages"),
        (
            [{"name": "numpy", "version": "2", "vulns": [{"id": "Y-1", "fix_versions": ["2.1"]}]}],
            1,
            "Y-1, mended in 2.1",
        ),
    ],
)
def test_known_faults_are_told_and_nothing_looked_up_is_no_good_sign(tmp_path, capsys, parts, code, told):
    path = tmp_path / "faults.json"
    path.write_text(json.dumps({"dependencies": parts}))
    assert main(["faults", str(path)]) == code
    assert told in capsys.readouterr().out
    assert main(["faults", str(tmp_path / "none.json")]) == 2


def test_every_package_that_the_program_runs_on_is_locked_by_its_digest_and_the_same_in_both_lists():
    def locked(name):
        lines = (ROOT / name).read_text().splitlines()
        return {line.split(" ")[0]: "\\" in line for line in lines if line and line[0] not in " #"}

    run, development = locked("requirements.txt"), locked("requirements-dev.txt")
    assert len(run) > 25
    assert run.items() <= development.items()
    assert all(development.values())
