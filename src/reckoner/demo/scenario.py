"""The scenario file, read; light, since the window asks its date before anything else loads."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from datetime import date
from functools import cache
from importlib import resources
from typing import Any


@cache
def scenario() -> Mapping[str, Any]:
    """The scenario as it stands in the file."""
    text = (resources.files("reckoner.demo") / "scenario.toml").read_text(encoding="utf-8")
    return tomllib.loads(text)


def demo_today() -> date:
    """The date on which the scenario plays."""
    today: date = scenario()["today"]
    return today
