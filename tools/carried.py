"""What the program carries, and whether any of it is known to be faulty: what `make sbom` and `make known-faults` tell.

python tools/carried.py sbom build/sbom.json       adds what is no package (typefaces), and says what has no licence named
python tools/carried.py faults build/faults.json   counts what was looked up; 2 where nothing could be
"""

from __future__ import annotations

import json
import sys
from collections import Counter
from pathlib import Path
from typing import Any

BESIDE: tuple[dict[str, Any], ...] = (
    {"name": "Atkinson Hyperlegible Next", "version": "shipped", "licence": "OFL-1.1"},
    {"name": "Noto Sans", "version": "shipped", "licence": "OFL-1.1"},
)
"""Carried in the package's own files."""

SAID_OTHERWISE = {"PyQt6-Qt6": "LGPL-3.0-only"}
"""Licences that a package names in words that the list does not take over."""

NOT_CARRIED = {"pip", "setuptools"}


def complete(found: dict[str, Any]) -> list[str]:
    """Complete a CycloneDX document; the names of what has no licence in it."""
    kept = [part for part in found["components"] if part["name"] not in NOT_CARRIED]
    kept += [_component(one["name"], one["version"], one["licence"]) for one in BESIDE]
    for part in kept:
        licence = SAID_OTHERWISE.get(part["name"])
        if licence is not None and not part.get("licenses"):
            part["licenses"] = _licence(licence)
    found["components"] = sorted(kept, key=lambda part: str(part["name"]).casefold())
    return [part["name"] for part in found["components"] if not part.get("licenses")]


def licences(found: dict[str, Any]) -> Counter[str]:
    """How many parts are under which licence."""
    said: Counter[str] = Counter()
    for part in found["components"]:
        for one in part.get("licenses", []):
            licence = one.get("license", {})
            said[one.get("expression") or licence.get("id") or licence.get("name") or "?"] += 1
    return said


def faults(found: dict[str, Any]) -> tuple[int, list[str]]:
    """How many packages were looked up, and a sentence for each known fault."""
    looked_up = [part for part in found["dependencies"] if "skip_reason" not in part]
    said = [
        f"{part['name']} {part['version']}: {fault['id']}, mended in {', '.join(fault['fix_versions']) or 'nothing yet'}"
        for part in looked_up
        for fault in part.get("vulns", ())
    ]
    return len(looked_up), said


def _component(name: str, version: str, licence: str) -> dict[str, Any]:
    return {"type": "file", "name": name, "version": version, "bom-ref": name, "licenses": _licence(licence)}


def _licence(name: str) -> list[dict[str, Any]]:
    return [{"license": {"id": name, "acknowledgement": "declared"}}]


def main(arguments: list[str]) -> int:
    """0 where all is well; 1 where something is without a licence, or known to be faulty; 2 where nothing was looked up."""
    what, path = arguments[0], Path(arguments[1])
    try:
        found = json.loads(path.read_text(encoding="utf-8"))
    except (OSError, ValueError):
        print(f"{path} was not made: there is no network here, or the tool before said why.")
        return 2
    if what == "sbom":
        unnamed = complete(found)
        path.write_text(json.dumps(found, indent=2, ensure_ascii=False) + "\n", encoding="utf-8")
        for licence, count in sorted(licences(found).items()):
            print(f"{count:4} {licence}")
        print(f"{len(found['components'])} parts in {path}; without a licence: {', '.join(unnamed) or 'none'}.")
        return 1 if unnamed else 0
    looked_up, said = faults(found)
    of = len(found["dependencies"])
    if not looked_up:
        print(f"No network here reaches the list of known faults: none of {of} packages was looked up.")
        return 2
    for sentence in said:
        print(sentence)
    print(f"{looked_up} of {of} packages were looked up; known faults: {len(said)}.")
    return 1 if said or looked_up < of else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
