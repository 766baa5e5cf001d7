"""What stands on a working sheet (a review, a job card), as plain values: the shop fills it, ``sheets_pdf`` draws it."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class SheetTable:
    """A table: ``heads`` with their shares of the width, and its rows; ``boxes`` are the columns to be written in by hand.
    ``halved``: in two halves beside each other."""

    title: str
    heads: tuple[str, ...]
    shares: tuple[float, ...]
    rows: tuple[tuple[str, ...], ...]
    boxes: tuple[int, ...] = ()
    halved: bool = False


@dataclass(frozen=True)
class Dots:
    """A pattern of fasteners: where each stands, from −1 to 1 across and down, its ``name``, and its ``place`` in the order
    of tightening (from 1)."""

    places: tuple[tuple[float, float], ...]
    names: tuple[str, ...]
    order: tuple[int, ...]
    ring: bool = False


@dataclass(frozen=True)
class PaperSheet:
    """``title`` and ``number`` at its head beside the shop; the ``sentence`` first, then named ``facts``, a pattern, tables,
    notes, and what is signed."""

    title: str
    number: str
    shop: str
    address: str
    sentence: str
    facts: tuple[tuple[str, str], ...] = ()
    tables: tuple[SheetTable, ...] = ()
    pattern: Dots | None = None
    notes: tuple[str, ...] = ()
    signatures: tuple[tuple[str, str], ...] = ()
    logo: bytes = field(default=b"", repr=False)
