"""What a few letters at the top line may mean beside tools: references, people, cards, jobs, certificates; where one wants to
go with a tool; and what was probably meant where nothing fits."""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum

from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard, tool_called
from reckoner.shop.register.finding import plain
from reckoner.store.reader import Reader, contains
from reckoner.store.terms import RegisterKind

SHORTEST = 2
"""Letters from which anything but a tool is looked for."""

OF_EACH = 3
"""Rows of a kind that are offered at most."""


class FoundKind(StrEnum):
    """What was found."""

    REFERENCE = "reference"
    GEAR = "gear"
    MODEL = "model"
    PERSON = "person"
    CARD = "card"
    JOB = "job"
    CERTIFICATE = "certificate"
    RUN = "run"


@dataclass(frozen=True)
class FoundRow:
    """A row by its id and ``name``, with what is said of it; ``register`` is the kind of a thing on the reference shelves."""

    kind: FoundKind
    id: int
    name: str
    words: str
    register: RegisterKind | None = None


_ASKED: dict[FoundKind, str] = {
    FoundKind.REFERENCE: (
        "SELECT r.id, r.number AS name, r.maker || ' ' || r.model || ' ' || r.serial AS more, '' AS register "
        "FROM reference r WHERE NOT r.removed AND r.kind = 'meter' AND {found} ORDER BY r.number"
    ),
    FoundKind.GEAR: (
        "SELECT g.id, g.number AS name, '' AS more, g.kind AS register "
        "FROM gear g WHERE NOT g.removed AND {found} ORDER BY g.number"
    ),
    FoundKind.MODEL: (
        "SELECT m.id, m.maker || ' ' || m.name AS name, '' AS more, '' AS register "
        "FROM tool_model m WHERE NOT m.removed AND {found} ORDER BY m.maker, m.name"
    ),
    FoundKind.PERSON: (
        "SELECT p.id, p.initials AS name, p.name AS more, '' AS register "
        "FROM person p WHERE NOT p.removed AND {found} ORDER BY p.initials"
    ),
    FoundKind.CARD: (
        "SELECT c.id, c.number AS name, c.title || ' ' || c.place AS more, '' AS register "
        "FROM job_card c WHERE NOT c.removed AND {found} ORDER BY c.number"
    ),
    FoundKind.JOB: (
        "SELECT w.id, w.number AS name, w.title AS more, '' AS register "
        "FROM job_work w WHERE {found} ORDER BY w.id DESC"
    ),
    FoundKind.CERTIFICATE: (
        "SELECT n.id, n.number AS name, '' AS more, '' AS register "
        "FROM certificate_number n WHERE {found} ORDER BY n.id DESC"
    ),
}
_SEARCHED: dict[FoundKind, tuple[str, ...]] = {
    FoundKind.REFERENCE: ("r.number", "r.maker", "r.model", "r.serial"),
    FoundKind.GEAR: ("g.number",),
    FoundKind.MODEL: ("m.maker", "m.name"),
    FoundKind.PERSON: ("p.initials", "p.name"),
    FoundKind.CARD: ("c.number", "c.title"),
    FoundKind.JOB: ("w.number", "w.title"),
    FoundKind.CERTIFICATE: ("n.number",),
}
KIND_WORDS: dict[FoundKind, str] = {
    FoundKind.REFERENCE: tr("meter"),
    FoundKind.GEAR: tr("to test with"),
    FoundKind.MODEL: tr("model"),
    FoundKind.PERSON: tr("works here"),
    FoundKind.CARD: tr("job card"),
    FoundKind.JOB: tr("job"),
    FoundKind.CERTIFICATE: tr("certificate"),
    FoundKind.RUN: tr("run"),
}


def elsewhere(reader: Reader, text: str) -> tuple[FoundRow, ...]:
    """What beside tools is called like ``text``, ``OF_EACH`` of each kind at most."""
    wanted = text.strip().casefold()
    if len(wanted) < SHORTEST:
        return ()
    found = []
    for kind, asked in _ASKED.items():
        where = " OR ".join(contains(f"lower({column})", "wanted") for column in _SEARCHED[kind])
        rows = reader.rows(f"{asked.format(found=f'({where})')} LIMIT {OF_EACH}", wanted=wanted)
        for row in rows:
            said = " ".join(part for part in (row.more or "").split())
            words = f"{row.name}   {KIND_WORDS[kind]}{f', {said}' if said else ''}"
            found.append(FoundRow(kind, row.id, row.name, words, RegisterKind(row.register) if row.register else None))
    return tuple(found)


_RUN = re.compile(r"^\s*run[\s\-:]+(?P<id>\d{1,9})(?:\s+(?P<tool>\S+))?\s*$", re.IGNORECASE)


def run_called(reader: Reader, text: str) -> FoundRow | None:
    """The run that "run 12" names, as a set-up sheet's code does; None where there is none, or it is another tool's."""
    said = _RUN.match(text)
    if said is None:
        return None
    row = reader.row(
        "SELECT r.id, t.number, o.id AS open FROM run r JOIN tool t ON t.id = r.tool_id "
        "LEFT JOIN open_run o ON o.run_id = r.id WHERE r.id = :run",
        run=int(said["id"]),
    )
    if row is None or (said["tool"] and said["tool"].casefold() != str(row.number).casefold()):
        return None
    words = tr("Go on with run {id} of {number}", id=row.id, number=row.number)
    if row.open is None:
        words = tr("Look at run {id} of {number}, which is over", id=row.id, number=row.number)
    return FoundRow(FoundKind.RUN, row.id, tr("run {id}", id=row.id), words)


class Errand(StrEnum):
    """What one wants of a tool that is named behind it."""

    TEST = "test"
    CHECK = "check"
    LABEL = "label"
    SHEET = "sheet"
    CERTIFICATE = "certificate"


ERRAND_TYPED: dict[str, Errand] = {
    tr("test"): Errand.TEST,
    tr("check"): Errand.CHECK,
    tr("label"): Errand.LABEL,
    tr("print label"): Errand.LABEL,
    tr("sheet"): Errand.SHEET,
    tr("certificate"): Errand.CERTIFICATE,
    tr("print certificate"): Errand.CERTIFICATE,
}
"""What is typed in front of a tool's number."""


@dataclass(frozen=True)
class ToolErrand:
    """An errand with the tool that it is for."""

    errand: Errand
    card: ToolCard

    @property
    def words(self) -> str:
        number = self.card.tool.number
        match self.errand:
            case Errand.TEST:
                return tr("Put {number} on the bench", number=number)
            case Errand.CHECK:
                return tr("A quick check of {number}", number=number)
            case Errand.LABEL:
                return tr("The label of {number}", number=number)
            case Errand.SHEET:
                return tr("The sheet of {number}", number=number)
            case Errand.CERTIFICATE:
                return tr("The results and certificates of {number}", number=number)


def errand_in(reader: Reader, text: str) -> ToolErrand | None:
    """The errand that ``text`` asks for; None where it is none, or names no tool or several."""
    said = " ".join(text.casefold().split())
    for typed in sorted(ERRAND_TYPED, key=len, reverse=True):
        if said.startswith(f"{typed} "):
            card = tool_called(reader, said[len(typed) + 1 :])
            return ToolErrand(ERRAND_TYPED[typed], card) if card is not None else None
    return None


ALIKE = 75.0
"""From which likeness on, in percent, something was probably meant."""


def probably_meant(reader: Reader, text: str) -> str:
    """What is most like ``text`` among numbers of tools and references, makers, models and places; empty where nothing is."""
    from rapidfuzz import fuzz, process  # only when nothing fits

    names = {
        str(row.name)
        for row in reader.rows(
            "SELECT number AS name FROM tool WHERE NOT removed UNION SELECT number FROM reference WHERE NOT removed "
            "UNION SELECT maker FROM tool_model UNION SELECT name FROM tool_model UNION SELECT place FROM tool"
        )
        if row.name
    }
    best = process.extractOne(text, sorted(names), scorer=fuzz.ratio, processor=plain, score_cutoff=ALIKE)
    return best[0] if best is not None else ""
