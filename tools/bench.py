"""Speed, as ratios measured in one run: `make bench`, or `make bench ONLY=numbers`. Exits 1 when a bound is missed."""

from __future__ import annotations

import importlib
import os
import sys

import reckoner  # noqa: F401 - before NumPy: it says how many threads there are to be

SUBJECTS = ("numbers", "start", "drag", "using", "stream", "growth", "scale")


def main(only: str = "") -> int:
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    missed = False
    for subject in (only,) if only else SUBJECTS:
        for row in importlib.import_module(f"benchmarks.{subject}").rows():
            print(row, flush=True)
            missed |= not row.kept
    return int(missed)


if __name__ == "__main__":
    sys.exit(main(*sys.argv[1:]))
