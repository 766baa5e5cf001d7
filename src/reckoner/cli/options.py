"""What the window is opened with. Light: it is read before the library that reads every other command line."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path

from reckoner.core.errors import InputRefused
from reckoner.core.translation import tr
from reckoner.store import times


@dataclass(frozen=True)
class WindowOptions:
    """What the window is opened with from the command line."""

    folder: Path
    demo: bool
    today: date | None
    dark: bool
    station: Path | None = None
    """The file with this station's settings; None: the user's own."""


def default_folder(*, demo: bool = False) -> Path:
    """Where data are kept when no --data is given. Raises InputRefused for a login without a home folder."""
    import platformdirs

    folder = Path(platformdirs.user_data_dir("reckoner"))
    if not folder.is_absolute():
        raise InputRefused(
            "data", str(folder), tr("this login has no home folder; name one for the data with --data FOLDER")
        )
    return folder / "demo" if demo else folder


def require_database(folder: Path) -> None:
    """Raises InputRefused where there is none."""
    from reckoner.store.files import DATABASE

    if not (folder / DATABASE).exists():
        raise InputRefused("data", folder, tr('there is no database in "{folder}"', folder=folder))


def default_station(folder: Path) -> Path:
    """Where this station's settings are kept; beside the data in ``folder`` for a login without a home folder."""
    import platformdirs

    found = Path(platformdirs.user_config_dir("reckoner"))
    return (found if found.is_absolute() else folder) / "station.json"


def clock(today: Callable[[], date | None]) -> Callable[[], datetime]:
    """The present moment, or the present time of day on the date that ``today`` gives."""

    def now() -> datetime:
        day = today()
        return times.present() if day is None else times.present_on(day)

    return now
