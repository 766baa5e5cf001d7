"""A link of the chain of records, and the newest one as it is shown."""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.store.reader import Reader
from reckoner.store.terms import LinkKind, term

SHOWN = 16
"""How many figures of a digest people are shown; enough to tell two chains apart."""


@dataclass(frozen=True)
class WrittenLink:
    """A link of the chain, as it stands."""

    place: int
    kind: LinkKind
    row_id: int
    form: int
    content: str
    digest: str

    @property
    def words(self) -> str:
        """How people see it and note it down: its place and the beginning of its digest, in groups."""
        groups = (self.digest[i : i + 4] for i in range(0, SHOWN, 4))
        return f"{self.place} · {' '.join(groups)}"


def newest_link(reader: Reader) -> WrittenLink | None:
    """The newest link; None before the first."""
    row = reader.row("SELECT place, kind, row_id, form, content, digest FROM chain_link ORDER BY place DESC LIMIT 1")
    return (
        None
        if row is None
        else WrittenLink(row.place, term(LinkKind, row.kind), row.row_id, row.form, row.content, row.digest)
    )
