"""The places of the window, each declared once, and going to one as a value.

To add a place: a member of ``PlaceId``, and a row in ``PLACES`` with its name, key, sign and the class that fills it, which
follows ``place.Place``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path
from typing import TYPE_CHECKING

from PyQt6.QtCore import QPointF
from PyQt6.QtGui import QPainterPath

from reckoner.core.translation import tr
from reckoner.store.terms import RegisterKind, RunKind

if TYPE_CHECKING:
    from reckoner.core.reference.plan import HungWish
    from reckoner.shop.using.fitting import Fitted


class PlaceId(StrEnum):
    TODAY = "today"
    BENCH = "bench"
    TOOLS = "tools"
    REFERENCES = "references"
    SETTING = "setting"
    DESK = "desk"
    RECORDS = "records"


DESCRIBE = "describe"
"""The page of what adds tools on which a model is described by its picture."""


@dataclass(frozen=True)
class WayBack:
    """Where a person goes on once what they came for is done: ``words`` say it on a button."""

    words: str
    target: Target


@dataclass(frozen=True)
class Target:
    """Where to go: a place, and what in it: a tool or a run by id, another ``row`` of the ``register`` by kind and id
    (None: the list of them), a ``number`` that is in no register yet, or to ``bring_in`` a spreadsheet. ``kind`` is the
    kind of run that the tool is wanted for, ``labels`` the words that find the tools whose labels are wanted, ``tools``
    those themselves, ``torque`` what a joint gets, as it was typed, with the adapters that are ``fitted`` and the ``hand``
    there (m); ``at`` is a torque in N·m that a run is wanted at, ``wish`` what a person has to hang for it, ``back`` where
    they came from and go on; ``card`` a job card, ``work`` one being worked through, ``review`` one of what a tool may have
    spoiled (0: that of the ``tool``), ``backup`` one that may be put back; ``page`` the page of a place that has several."""

    place: PlaceId
    tool: int | None = None
    run: int | None = None
    number: str = ""
    register: RegisterKind | None = None
    row: int | None = None
    bring_in: bool = False
    kind: RunKind | None = None
    labels: str = ""
    tools: tuple[int, ...] = ()
    torque: str = ""
    fitted: tuple[Fitted, ...] | None = None
    hand: float | None = None
    at: float | None = None
    wish: HungWish | None = None
    back: WayBack | None = None
    card: int | None = None
    work: int | None = None
    review: int | None = None
    backup: Path | None = None
    page: str = ""

    def to_bench(self, tool_id: int) -> Target:
        """To the bench with a tool that was added for it, and what else was asked for."""
        kind = RunKind.CHECK if self.wish is not None else None
        return Target(PlaceId.BENCH, tool=tool_id, kind=kind, at=self.at, wish=self.wish)


@dataclass(frozen=True)
class PlaceSpec:
    """``sign`` draws it on a 24 × 24 field; ``cls`` in ``module`` is loaded when it is first gone to, so that the window is
    there at once."""

    id: PlaceId
    name: str
    key: str
    tooltip: str
    sign: Callable[[QPainterPath], None]
    module: str
    cls: str


def _today(path: QPainterPath) -> None:
    for i, end in enumerate((20, 14, 17)):
        path.moveTo(2, 5 + 7 * i)
        path.lineTo(end, 5 + 7 * i)


def _bench(path: QPainterPath) -> None:
    path.moveTo(1, 20)
    path.lineTo(23, 20)
    path.addRect(4, 13, 7, 7)
    path.moveTo(7.5, 13)
    path.lineTo(7.5, 8)
    path.lineTo(23, 5)


def _tools(path: QPainterPath) -> None:
    path.moveTo(2, 4)
    path.lineTo(15, 4)
    path.lineTo(21, 12)
    path.lineTo(15, 20)
    path.lineTo(2, 20)
    path.closeSubpath()
    path.addEllipse(QPointF(14, 12), 2, 2)


def _references(path: QPainterPath) -> None:
    path.moveTo(12, 2)
    path.lineTo(12, 20)
    path.moveTo(5, 20)
    path.lineTo(19, 20)
    path.moveTo(3, 6)
    path.lineTo(21, 6)
    for x in (3, 21):
        path.moveTo(x, 6)
        path.lineTo(x - 2, 13)
        path.lineTo(x + 2, 13)
        path.closeSubpath()


def _setting(path: QPainterPath) -> None:
    path.moveTo(2, 16)
    path.lineTo(9, 10)
    path.addEllipse(QPointF(11, 8.5), 2.5, 2.5)
    path.moveTo(13.5, 8.5)
    path.lineTo(23, 8.5)
    path.moveTo(20, 12)
    path.lineTo(20, 20)
    path.moveTo(17.5, 17)
    path.lineTo(20, 20)
    path.lineTo(22.5, 17)


def _desk(path: QPainterPath) -> None:
    path.moveTo(1, 11)
    path.lineTo(23, 11)
    path.moveTo(4, 11)
    path.lineTo(4, 21)
    path.moveTo(20, 11)
    path.lineTo(20, 21)
    path.moveTo(7, 7)
    path.lineTo(15, 7)
    path.moveTo(12.5, 4.5)
    path.lineTo(15, 7)
    path.lineTo(12.5, 9.5)


def _records(path: QPainterPath) -> None:
    path.moveTo(4, 2)
    path.lineTo(15, 2)
    path.lineTo(20, 7)
    path.lineTo(20, 22)
    path.lineTo(4, 22)
    path.closeSubpath()
    for y in (10, 14):
        path.moveTo(8, y)
        path.lineTo(16, y)
    path.addEllipse(QPointF(14.5, 18), 1.6, 1.6)


PLACES: tuple[PlaceSpec, ...] = (
    PlaceSpec(
        PlaceId.TODAY,
        tr("Today"),
        "Alt+1",
        tr("What is due, held and unfinished"),
        _today,
        "reckoner.ui.today",
        "TodayPlace",
    ),
    PlaceSpec(
        PlaceId.BENCH, tr("Bench"), "Alt+2", tr("The run on the bench"), _bench, "reckoner.ui.bench", "BenchPlace"
    ),
    PlaceSpec(
        PlaceId.TOOLS,
        tr("Tools"),
        "Alt+3",
        tr("The register and each tool's history"),
        _tools,
        "reckoner.ui.tools",
        "ToolsPlace",
    ),
    PlaceSpec(
        PlaceId.REFERENCES,
        tr("References"),
        "Alt+4",
        tr("What tools are compared with, and what it is worth"),
        _references,
        "reckoner.ui.references",
        "ReferencesPlace",
    ),
    PlaceSpec(
        PlaceId.SETTING,
        tr("Setting"),
        "Alt+5",
        tr("What to set for a wanted torque, adapters and the hand, job cards"),
        _setting,
        "reckoner.ui.setting",
        "SettingPlace",
    ),
    PlaceSpec(
        PlaceId.DESK,
        tr("Desk"),
        "Alt+6",
        tr("Lend and take back, choose a tool, laboratories, what a bad tool may have spoiled"),
        _desk,
        "reckoner.ui.desk",
        "DeskPlace",
    ),
    PlaceSpec(
        PlaceId.RECORDS,
        tr("Records"),
        "Alt+8",
        tr("Certificates, result files, who did what, backups"),
        _records,
        "reckoner.ui.records",
        "RecordsPlace",
    ),
)
"""In the rail's order."""

SPECS = {spec.id: spec for spec in PLACES}
