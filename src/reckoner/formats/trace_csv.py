"""Traces as CSV files: reading them; ``core.tracetext`` says what stands in one."""

from __future__ import annotations

from pathlib import Path

from reckoner.core.errors import InputRefused
from reckoner.core.tracetext import TraceText, parse
from reckoner.core.translation import tr


def load(path: str | Path, field: str = "csv") -> TraceText:
    """The trace in the file at ``path``. Raises InputRefused, naming ``field``, the line and what is wrong with it."""
    try:
        text = Path(path).read_text(encoding="utf-8-sig")
    except (OSError, UnicodeDecodeError, ValueError) as fault:
        reason = getattr(fault, "strerror", None) or tr("it is not UTF-8 text")
        raise InputRefused(
            field, str(path), tr('"{path}" cannot be read: {reason}', path=path, reason=reason)
        ) from None
    return parse(text, field)
