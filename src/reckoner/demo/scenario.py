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
    return tomllib.loads(_text())


@cache
def demo_today() -> date:
    """The date on which the scenario plays: it stands at the head of the file, and no more of it is read."""
    head, _, _ = _text().partition("\n[")
    today: date = tomllib.loads(head)["today"]
    return today


def _text() -> str:
    return (resources.files("reckoner.demo") / "scenario.toml").read_text(encoding="utf-8")
