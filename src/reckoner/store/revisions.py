"""The revisions of the tables, by their files in ``migrations/versions``, in order.

To change the tables once a version was released: a new file there, and a sample of a database of the version before in the
tests. A released one is never edited.
"""

from __future__ import annotations

from pathlib import Path

MIGRATIONS = Path(__file__).parent / "migrations"


def revisions() -> tuple[str, ...]:
    """Every revision, oldest first."""
    return tuple(sorted(path.name.partition("_")[0] for path in (MIGRATIONS / "versions").glob("[0-9]*_*.py")))


def newest_revision() -> str:
    """The one that this program works with."""
    return revisions()[-1]
