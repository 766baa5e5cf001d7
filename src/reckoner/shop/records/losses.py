"""Two copies of the shop's records held against each other by their chains: how far they go together, what each has more,
and whether they have gone different ways since; so what putting a backup back would lose, and what a backup knows that the
database does not.

Links that bear the same digest at one place stand on the same records before it, so where two chains part is found in a few
looks, however long they are. A run that is not over yet has no link, and its readings are compared row by row.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from pathlib import Path
from typing import Any

from reckoner.core.quantities.days import moment_words
from reckoner.core.translation import tr, tr_count
from reckoner.store.backup import BackupRefused, back_up_today, backups_in, opened_to_look
from reckoner.store.reader import Reader
from reckoner.store.terms import LinkKind

_FIRST = "SELECT digest FROM chain_link ORDER BY place LIMIT 1"

_READINGS_OF = "SELECT count(*) FROM observation o JOIN series s ON s.id = o.series_id WHERE s.run_id IN ({runs})"
_OPEN_READINGS = (
    "SELECT o.id, o.series_id, o.at, o.kind, o.torque, o.tool_value FROM observation o JOIN series s ON s.id = o.series_id "
    "JOIN open_run u ON u.run_id = s.run_id ORDER BY o.id"
)
_RUNS_AT_ONCE = 500


@dataclass(frozen=True)
class ChainEnd:
    """The newest link of a chain: its ``place`` (0: there is none) and how its digest begins."""

    place: int = 0
    digest: str = ""

    @property
    def words(self) -> str:
        """Such as "412 · 3f9a27c1"."""
        return f"{self.place} · {self.digest[:8]}" if self.place else tr("no link")


@dataclass(frozen=True)
class RestoreLoss:
    """What one copy has and the other has not: links by their kind, and ``readings`` taken. ``common`` is the last link that
    both have, ``end`` the newest of the one, ``other_end`` of the other."""

    links: Mapping[LinkKind, int] = field(default_factory=dict)
    readings: int = 0
    common: ChainEnd = ChainEnd()
    end: ChainEnd = ChainEnd()
    other_end: ChainEnd = ChainEnd()

    @property
    def forked(self) -> bool:
        """Whether both went on since they were one: neither holds all that the other does."""
        return self.common.place < min(self.end.place, self.other_end.place)

    @property
    def words(self) -> str:
        """In a sentence, and where the two have gone different ways another."""
        if not self.told:
            return tr("Nothing came since: it would lose nothing.")
        lost = tr("It would lose {told}.", told=self.told)
        return f"{lost} {self.fork_words}" if self.forked else lost

    @property
    def fork_words(self) -> str:
        """Where they part, and how far each went."""
        return tr(
            "The two have gone different ways since link {common}: here to {end}, there to {other_end}.",
            common=self.common.words,
            end=self.end.words,
            other_end=self.other_end.words,
        )

    @property
    def told(self) -> str:
        """Such as "2 signed runs, 31 readings"; empty for nothing."""
        said = [(self.links.get(kind, 0), words) for kind, words in TOLD.items()]
        lines = self.links.get(LinkKind.AUDIT, 0)
        rest = sum(self.links.values()) - sum(count for count, _words in said) - lines
        said += [
            (self.readings, lambda n: tr_count("1 reading", "{n} readings", n)),
            (rest, lambda n: tr_count("1 other record", "{n} other records", n)),
        ]
        if not any(count for count, _words in said):
            said.append((lines, lambda n: tr_count("1 line of what was done", "{n} lines of what was done", n)))
        return ", ".join(words(count) for count, words in said if count)


TOLD: dict[LinkKind, Callable[[int], str]] = {
    LinkKind.RUN: lambda n: tr_count("1 run", "{n} runs", n),
    LinkKind.EVENT: lambda n: tr_count("1 event", "{n} events", n),
    LinkKind.VERSION: lambda n: tr_count("1 change of the register", "{n} changes of the register", n),
    LinkKind.WORK: lambda n: tr_count("1 job begun", "{n} jobs begun", n),
    LinkKind.ENTRY: lambda n: tr_count("1 entry of a job", "{n} entries of jobs", n),
    LinkKind.JOB: lambda n: tr_count("1 job ended", "{n} jobs ended", n),
    LinkKind.CERTIFICATE: lambda n: tr_count("1 certificate of a reference", "{n} certificates of references", n),
    LinkKind.CROSS_CHECK: lambda n: tr_count("1 check of a reference", "{n} checks of references", n),
    LinkKind.OUTSIDE_RESULT: lambda n: tr_count("1 laboratory's result", "{n} laboratories' results", n),
    LinkKind.REVIEW: lambda n: tr_count("1 review", "{n} reviews", n),
    LinkKind.KEY: lambda n: tr_count("1 passphrase", "{n} passphrases", n),
    LinkKind.SEAL: lambda n: tr_count("1 seal", "{n} seals", n),
}
"""The kinds of links that are told by name."""


def losing(reader: Reader, backup: Path) -> RestoreLoss:
    """What is in the database and not in the ``backup``. Raises BackupRefused for a file that is no backup."""
    with opened_to_look(backup) as kept:
        return beyond(reader, kept)


def missing(reader: Reader, backup: Path) -> RestoreLoss | None:
    """What is in a ``backup`` and not in the database, which then is an older one or went another way; None for a file that
    is no backup of this database."""
    try:
        with opened_to_look(backup) as kept:
            first = kept.value(_FIRST)
            return beyond(kept, reader) if first is not None and first == reader.value(_FIRST) else None
    except BackupRefused:
        return None


def beyond(one: Reader, other: Reader) -> RestoreLoss:
    """What ``one`` has and ``other`` has not."""
    end, other_end = _end(one), _end(other)
    common = _common(one, other, min(end.place, other_end.place))
    rows = one.rows("SELECT kind, count(*) AS n FROM chain_link WHERE place > :common GROUP BY kind", common=common)
    links = {LinkKind(row.kind): int(row.n) for row in rows}
    runs = one.rows("SELECT row_id FROM chain_link WHERE kind = 'run' AND place > :common", common=common)
    ids = [int(row.row_id) for row in runs]
    readings = 0
    for i in range(0, len(ids), _RUNS_AT_ONCE):
        part = ", ".join(map(str, ids[i : i + _RUNS_AT_ONCE]))
        readings += int(one.value(_READINGS_OF.format(runs=part)))
    at = one.value("SELECT digest FROM chain_link WHERE place = :common", common=common) if common else ""
    return RestoreLoss(
        links,
        readings + _rows_beyond(one, other, _OPEN_READINGS),
        ChainEnd(common, at or ""),
        end,
        other_end,
    )


def _rows_beyond(one: Reader, other: Reader, asked: str) -> int:
    """Rows of what is not over yet that the other has not."""
    here, there = ({tuple(vars(row).values()) for row in reader.rows(asked)} for reader in (one, other))
    return len(here - there)


def _end(reader: Reader) -> ChainEnd:
    row: Any = reader.row("SELECT place, digest FROM chain_link ORDER BY place DESC LIMIT 1")
    return ChainEnd(int(row.place), str(row.digest)) if row is not None else ChainEnd()


def _common(one: Reader, other: Reader, most: int) -> int:
    """The last place at which both bear the same digest; 0 for none."""

    def same(place: int) -> bool:
        asked = "SELECT digest FROM chain_link WHERE place = :place"
        return bool(one.value(asked, place=place) == other.value(asked, place=place))

    low, high = 0, most
    while low < high:
        middle = (low + high + 1) // 2
        low, high = (middle, high) if same(middle) else (low, middle - 1)
    return low


OLDER = tr(
    "Another database stands here: the backup of {at} also has {more}. {fork}Until it is said which of "
    "them is right, no daily backup is made."
)


@dataclass(frozen=True)
class BackupAhead:
    """A backup that knows more than the database does: an older one stands in its place, or one that went another way."""

    path: Path
    words: str


def back_up_unless_older(reader: Reader, folder: Path, into: Path, today: date) -> BackupAhead | None:
    """Make the backup of ``today`` of ``folder``, unless it is there already; where the newest one knows more than the
    database does, nothing is made and it is returned. Raises BackupRefused, StoreRefused."""
    newest = next(iter(backups_in(into)), None)
    more = missing(reader, newest.path) if newest is not None else None
    if newest is not None and more is not None and more.told:
        fork = f"{more.fork_words} " if more.forked else ""
        return BackupAhead(newest.path, OLDER.format(at=moment_words(newest.at), more=more.told, fork=fork))
    back_up_today(folder, into, today)
    return None
