"""What measures and draws still fits what it measures: each module can be loaded."""

import importlib
import sys
from pathlib import Path

import pytest

TOOLS = Path(__file__).parents[2] / "tools"
sys.path.append(str(TOOLS))


@pytest.mark.parametrize(
    "name",
    [
        *(f"benchmarks.{path.stem}" for path in sorted((TOOLS / "benchmarks").glob("[!_]*.py"))),
        *(path.stem for path in sorted(TOOLS.glob("*.py"))),
    ],
)
def test_it_loads(name, monkeypatch):
    monkeypatch.setattr(sys, "argv", [name])
    assert importlib.import_module(name)
