"""A hundred thousand tools beside a hundred: what a person waits for, against plain SQL and against the small register.

The registers are built once, by ``big_register``, and kept in build/registers; the largest takes some minutes and four
gigabytes. ``SIZES`` in the environment names others, as in SIZES=120,5000 make bench ONLY=scale.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
from pathlib import Path

from big_register import build

from benchmarks.row import Row
from benchmarks.stream import at_real_time
from reckoner.store.database import FILE, HEAD

KEPT = Path(__file__).parents[2] / "build" / "registers"
SIZES = tuple(int(size) for size in os.environ.get("SIZES", "120,5000,100000").split(","))
PAUSE_MS = 50
GROWS = 3.0


def register_of(size: int) -> Path:
    """A register of so many tools, built where there is none yet for this version of the tables."""
    folder = KEPT / f"{size}-{HEAD}"
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


def rows() -> list[Row]:
    """Each act on the largest register, times what it takes on the smallest; the pauses. Every size's figures are printed."""
    found = {size: probed(size) for size in SIZES}
    small, large = found[min(SIZES)], found[max(SIZES)]
    print(f"{'seconds until painted, and plain SQL':<40}" + "".join(f"{f'{size} tools':>22}" for size in SIZES))
    for name in small:
        cells = [
            f"{f[name]['seconds'] * 1000:8.0f} ms {f[name].get('plain', 0) * 1000:7.1f} ms" for f in found.values()
        ]
        print(f"  {name:<38}" + "".join(f"{cell:>22}" for cell in cells))
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
    return made
