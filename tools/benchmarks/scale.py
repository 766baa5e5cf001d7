"""A hundred thousand tools beside a hundred: what a person waits for, against plain SQL and against the small register.

The registers are built once, by ``big_register``, and kept in build/registers; the largest takes some minutes and four
gigabytes. ``SIZES`` in the environment names others, as in SIZES=120,5000 make bench ONLY=scale.
"""

from __future__ import annotations

import hashlib
import json
import os
import statistics
import subprocess
import sys
import time
from pathlib import Path

from big_register import build

from benchmarks.row import Row
from benchmarks.stream import at_real_time
from reckoner.shop.records.results import results
from reckoner.shop.records.trail import trail
from reckoner.store import database
from reckoner.store.database import FILE, Database

KEPT = Path(__file__).parents[2] / "build" / "registers"
SIZES = tuple(int(size) for size in os.environ.get("SIZES", "120,5000,100000").split(","))
PASSES = 2
"""Every size is measured so many times, in turns, for the machine is not always equally quick."""

PAUSE_MS = 50
GROWS = 3.0


def register_of(size: int) -> Path:
    """A register of so many tools, built where there is none yet for this version of the tables."""
    versions = sorted((Path(database.__file__).parent / "migrations" / "versions").glob("*.py"))
    tables = hashlib.sha256(b"".join(path.read_bytes() for path in versions)).hexdigest()[:12]
    folder = KEPT / f"{size}-{tables}"
    if not (folder / FILE).exists():
        print(f"building a register of {size} tools…", flush=True)
        making = folder.with_name(f"{folder.name}.making")
        subprocess.run(["rm", "-rf", str(making)], check=True)
        making.mkdir(parents=True)
        build(size, making)
        making.rename(folder)
    return folder


def probed(size: int) -> dict[str, dict[str, float]]:
    """What ``scale_probe`` measures on a register of so many tools."""
    done = subprocess.run(
        [sys.executable, "-m", "benchmarks.scale_probe", str(register_of(size))],
        cwd=Path(__file__).parents[1], capture_output=True, text=True, check=True,
    )  # fmt: skip
    found: dict[str, dict[str, float]] = json.loads(done.stdout)
    return found


def least(passes: list[dict[str, float]]) -> dict[str, float]:
    """The pass that was disturbed least; its spread over all of them."""
    best = dict(min(passes, key=lambda one: one["seconds"]))
    if "low" in best:
        best |= {"low": min(one["low"] for one in passes), "high": max(one["high"] for one in passes)}
    return best | {"pause": min(one["pause"] for one in passes)}


def cell(figures: dict[str, float]) -> str:
    """An act's milliseconds, those of its statements in plain SQL, and how many times as long it takes."""
    took, plain = figures["seconds"] * 1000, figures["plain"] * 1000
    return f"{took:.0f} ms · {plain:.2f} ms · {took / max(plain, 1e-3):.0f}"


def rows() -> list[Row]:
    """Each act on the largest register, times what it takes on the smallest; the pauses. Every size's figures are printed."""
    passes = [{size: probed(size) for size in SIZES} for _ in range(PASSES)]
    found = {size: {name: least([one[size][name] for one in passes]) for name in passes[0][size]} for size in SIZES}
    small, large = found[min(SIZES)], found[max(SIZES)]
    print(f"{'until painted · plain SQL · ratio':<40}" + "".join(f"{f'{size} tools':>28}" for size in SIZES))
    for name in (name for name in small if "plain" in small[name]):
        print(f"  {name:<38}" + "".join(f"{cell(figures[name]):>28}" for figures in found.values()))
    made = [
        Row(
            f"{name}, {max(SIZES)} tools, times {min(SIZES)}",
            large[name]["seconds"] / small[name]["seconds"],
            at_most=GROWS,
            low=large[name]["low"] / small[name]["high"],
            high=large[name]["high"] / small[name]["low"],
        )
        for name in small
        if "low" in small[name]
    ]
    opened = "the register opened, Today painted"
    made.append(
        Row(f"{opened}, times the small one", large[opened]["seconds"] / small[opened]["seconds"], at_most=GROWS)
    )
    worst = max(found[max(SIZES)].values(), key=lambda figures: figures["pause"])["pause"] * 1000
    made.append(Row(f"longest pause of the interface thread, {max(SIZES)} tools", worst, at_most=PAUSE_MS, unit="ms"))
    delays = at_real_time(20.0, register_of(max(SIZES))).delays
    made.append(
        Row(
            f"from the click to the reading painted, {max(SIZES)} tools, worst",
            max(delays, default=9.0) * 1000,
            at_most=100,
            unit="ms",
            low=min(delays, default=9.0) * 1000,
            high=max(delays, default=9.0) * 1000,
        )
    )
    return [*made, *_looked_up(register_of(max(SIZES)))]


def _looked_up(folder: Path) -> list[Row]:
    """A word that stands nowhere, among the results and in what was done, times reading one column through."""
    made, opened = [], Database(folder)
    with opened.reading() as reader:
        for name, ask in (("among the results", results), ("in what was done", trail)):
            took, plain = [], []
            for _ in range(PASSES + 1):
                begun = time.perf_counter()
                ask(reader, "zzz")
                took.append(time.perf_counter() - begun)
                begun = time.perf_counter()
                reader.value("SELECT COUNT(*) FROM audit WHERE detail LIKE '%zzz%'")
                plain.append(time.perf_counter() - begun)
            words = f"a word that is nowhere, looked up {name} ({max(took) * 1000:.0f} ms), times one column"
            pairs = [one / other for one, other in zip(took, plain, strict=True)]
            made.append(Row(words, statistics.median(pairs), at_most=6, low=min(pairs), high=max(pairs)))
    opened.close()
    return made
