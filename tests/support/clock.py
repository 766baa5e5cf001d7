"""The tests' own clock and zone: whatever the machine's say, here it is half past nine on the demo's day.

RECKONER_TEST_ZONE names another zone, to show that the tests hold in it; ``real_clocks`` finds who reads the machine's.
"""

import os
import re
import time
from datetime import UTC, datetime
from pathlib import Path

ROOT = Path(__file__).parents[2]

ZONE = os.environ.get("RECKONER_TEST_ZONE", "CET-1CEST,M3.5.0,M10.5.0/3")
os.environ["TZ"] = ZONE  # also for programs that tests start
time.tzset()


def here(*moment: int) -> datetime:
    """A moment by the clocks of the tests' zone."""
    return datetime(*moment).astimezone()


def in_zone(at: datetime) -> datetime:
    """A moment as the clocks of the zone that is set now show it."""
    return at.astimezone(None)


NOW = here(2026, 11, 24, 9, 30)

READS_A_CLOCK = re.compile(
    r"\bdatetime\.(?:now|today|utcnow|fromtimestamp)\(|\bdate\.today\(|\btime\.(?:time|localtime|ctime)\(|\.astimezone\(\)"
)
ALLOWED = ("src/reckoner/store/times.py", "tests/support/clock.py")


def real_clocks() -> list[str]:
    """The lines of the program and its tests that read the machine's clock or zone where it is not given to them."""
    found = []
    for path in sorted((*ROOT.glob("src/**/*.py"), *ROOT.glob("tests/**/*.py"))):
        name = path.relative_to(ROOT).as_posix()
        if name not in ALLOWED:
            lines = path.read_text(encoding="utf-8").splitlines()
            found += [
                f"{name}:{number}: {line.strip()}" for number, line in enumerate(lines, 1) if READS_A_CLOCK.search(line)
            ]
    return found


def utc(*moment: int) -> datetime:
    return datetime(*moment, tzinfo=UTC)
