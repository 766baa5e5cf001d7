"""What belongs to this station and not to the shop: how its meters are reached, the mute, the window. A small JSON file of
its own in the user's configuration folder, apart from every database.

To add a setting: a field of ``StationSettings`` with its default and, for a number, its bounds in ``_checked``.
"""

from __future__ import annotations

import json
import logging
import socket
from collections.abc import Mapping
from dataclasses import asdict, dataclass, field, fields, replace
from pathlib import Path
from typing import Any

from reckoner.beside import beside
from reckoner.core.translation import tr
from reckoner.store.errors import StoreRefused

log = logging.getLogger("reckoner.station")

FILE = "station.json"


HEAVIEST_HANGER = 25.0
"""kg: a hook and its rope weigh less."""


class StationNotWritable(StoreRefused):
    def __str__(self) -> str:
        return tr(
            "This station's settings cannot be written to {path} ({why}). They hold until the window "
            "closes; ask for the right to write there.",
            path=self.path,
            why=self.why,
        )


@dataclass(frozen=True)
class StationSettings:
    """``name`` is what the station is called in the audit trail, empty where it is as its computer; ``links`` are how
    references are reached from here, by their number; ``window`` the window's width and height in pixels, None before it
    was changed; ``calendar`` the file that the due dates are kept in, ``backups`` the folder of the daily backups; both
    empty where there are none, as is ``outside``, the file that the newest link is written to after each signature;
    ``rehearsed`` the month in which a backup was last put back to see that it can be. ``columns``: what the columns of a
    spreadsheet were said to mean, by their names; ``folders``: where files were kept or read last, by what they are;
    ``speaks``: the bench speaks; ``pedals``: the key that a foot pedal sends, by what it does; ``hanger``: what this
    bench's hook and rope weigh, in kg, 0 where nobody has said."""

    links: Mapping[str, str] = field(default_factory=dict)
    muted: bool = False
    dark: bool = False
    speaks: bool = False
    window: tuple[int, int] | None = None
    calendar: str = ""
    backups: str = ""
    outside: str = ""
    rehearsed: str = ""
    name: str = ""
    columns: Mapping[str, str] = field(default_factory=dict)
    folders: Mapping[str, str] = field(default_factory=dict)
    pedals: Mapping[str, str] = field(default_factory=dict)
    hanger: float = 0.0


class Station:
    """The settings in ``path``. What cannot be read counts as not set, and the file is kept beside under another name."""

    def __init__(self, path: Path) -> None:
        self.path = path
        self.settings = self._read()

    def keep(self, **changed: Any) -> None:
        """Change settings and keep them. Raises StationNotWritable; they hold all the same."""
        self.settings = replace(self.settings, **changed)
        text = json.dumps(asdict(self.settings), ensure_ascii=False, indent=1)
        try:
            self.path.parent.mkdir(parents=True, exist_ok=True)
            with beside(self.path) as made:
                made.write_text(text, encoding="utf-8")
                made.replace(self.path)
        except OSError as fault:
            raise StationNotWritable(self.path, fault.strerror or str(fault)) from fault

    @property
    def called(self) -> str:
        """What the station is called: its own name, or its computer's."""
        return self.settings.name or socket.gethostname()

    def link_of(self, number: str, otherwise: str) -> str:
        """How the reference ``number`` is reached from here; ``otherwise`` is how the shop says."""
        return self.settings.links.get(number, otherwise)

    def set_link(self, number: str, link: str) -> None:
        """Remember how a reference is reached from here. Raises StationNotWritable."""
        self.keep(links={**self.settings.links, number: link})

    def _read(self) -> StationSettings:
        try:
            raw = json.loads(self.path.read_text(encoding="utf-8"))
            return _checked(raw)
        except FileNotFoundError:
            return StationSettings()
        except (OSError, ValueError, TypeError, AttributeError, OverflowError, RecursionError) as fault:
            log.warning("the station's settings cannot be read, defaults hold: %s", fault)
            self._set_aside()
            return StationSettings()

    def _set_aside(self) -> None:
        try:
            self.path.replace(self.path.with_suffix(".unreadable.json"))
        except OSError as fault:
            log.info("not set aside: %s", fault)


def _checked(raw: Mapping[str, Any]) -> StationSettings:
    """Settings from a file; what is not of its type raises ValueError, what is not known is left out."""
    known = {f.name for f in fields(StationSettings)}
    given = {name: value for name, value in raw.items() if name in known}
    for texts in ("links", "columns", "folders", "pedals"):
        if not all(isinstance(k, str) and isinstance(v, str) for k, v in given.get(texts, {}).items()):
            raise ValueError(f"{texts} are names and texts")
    if not all(isinstance(given.get(name, False), bool) for name in ("muted", "dark", "speaks")):
        raise ValueError("muted, dark and speaks are true or false")
    if not all(
        isinstance(given.get(name, ""), str) for name in ("calendar", "backups", "outside", "rehearsed", "name")
    ):
        raise ValueError("calendar, backups, outside, rehearsed and name are texts")
    hanger = given.get("hanger", 0.0)
    if isinstance(hanger, bool) or not isinstance(hanger, int | float) or not 0 <= hanger <= HEAVIEST_HANGER:
        raise ValueError("no hook and rope weigh that")
    size = given.get("window")
    if size is not None:
        width, height = (int(n) for n in size)
        if not (400 <= width <= 20_000 and 300 <= height <= 20_000):
            raise ValueError("the window has no such size")
        given["window"] = (width, height)
    return StationSettings(**given)
