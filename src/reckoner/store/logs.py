"""The program's log as a file: rotating, in the user's state folder, the owner's alone. Nothing that a person types as a
passphrase is ever logged."""

from __future__ import annotations

import logging
from io import TextIOWrapper
from pathlib import Path

from reckoner.beside import OWNER_ONLY, owners_alone

BYTES = 1_000_000
KEPT = 3
FORMAT = "%(asctime)s %(levelname)s %(name)s: %(message)s"

log = logging.getLogger("reckoner")


def log_path() -> Path:
    """Where the log is kept: in the user's state folder; beside what the program was started from where there is none."""
    import platformdirs  # loads slowly

    return Path(platformdirs.user_state_dir("reckoner")).absolute() / "reckoner.log"


def keep_log(path: Path) -> logging.Handler | None:
    """Write warnings and faults to ``path`` from now on; None, and a warning, when it cannot be written."""
    from logging.handlers import RotatingFileHandler  # loads sockets and more: the window calls this once it is painted

    class OwnersLog(RotatingFileHandler):
        def _open(self) -> TextIOWrapper:
            return open(self.baseFilename, "a", encoding="utf-8", opener=owners_alone)

    try:
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        handler = OwnersLog(path, maxBytes=BYTES, backupCount=KEPT, encoding="utf-8", delay=False)
        path.chmod(OWNER_ONLY)  # one that an older Reckoner began
    except OSError as fault:
        log.warning("no log is kept: %s", fault)
        return None
    handler.setLevel(logging.INFO)
    handler.setFormatter(logging.Formatter(FORMAT))
    logging.getLogger().addHandler(handler)
    return handler
