"""What stands on a certificate, as plain values: the shop fills it, ``certificate_pdf`` draws it."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class FencePicture:
    """A deviation between its posts; fractions. ``whisker`` is W; ``ticks`` are the readings."""

    limit: float
    near: float
    ticks: tuple[float, ...]
    mean: float
    whisker: float


@dataclass(frozen=True)
class PointRow:
    """One point: words and figures as they stand in the table, and its fence."""

    target: str
    readings: str
    mean: str
    deviation: str
    uncertainty: str
    limit: str
    state: str
    fence: FencePicture


@dataclass(frozen=True)
class PhaseTable:
    """As it came, as found or as left: a ``title``, its points, and what is said of it."""

    title: str
    rows: tuple[PointRow, ...]
    said: str = ""


@dataclass(frozen=True)
class BudgetLine:
    """One component of a budget: its name, its relative standard uncertainty in words, and its share, a fraction."""

    name: str
    value: str
    share: float


@dataclass(frozen=True)
class BudgetTable:
    """A point's budget."""

    title: str
    lines: tuple[BudgetLine, ...]
    total: str


@dataclass(frozen=True)
class LeverPicture:
    """What hung on the lever, m and words: drawn true to scale."""

    title: str
    grip: float
    pivot: float
    hook: float
    balance: float | None
    weights: tuple[str, ...]
    words: str


@dataclass(frozen=True)
class CertificatePaper:
    """All of it. ``blocks`` are named lines in groups: the tool, the reference, the method; ``notes`` say what this paper is
    and is not; ``mark`` is what the square code holds, ``logo`` a picture (PNG, JPEG) for the head. ``language`` is that of
    its words, ``end`` what stands under the last of it."""

    title: str
    number: str
    shop: str
    address: str
    blocks: tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
    statement: str
    formal: str
    phases: tuple[PhaseTable, ...]
    remarks: tuple[str, ...]
    signatures: tuple[tuple[str, str], ...]
    notes: tuple[str, ...]
    mark: str
    budgets: tuple[BudgetTable, ...] = ()
    levers: tuple[LeverPicture, ...] = field(default=())
    logo: bytes = b""
    language: str = "en"
    end: str = ""
