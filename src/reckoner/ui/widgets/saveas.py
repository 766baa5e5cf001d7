"""Where a file is to be kept: the desktop's own dialog, with a name that any file system takes."""

from __future__ import annotations

import re
from pathlib import Path

from PyQt6.QtWidgets import QFileDialog, QWidget

NOT_IN_A_NAME = re.compile(r'[/\\:*?"<>|\x00-\x1f]+')


def file_name(words: str) -> str:
    """``words`` without what a file system may not take in a name.

    >>> file_name("A/12-scale.pdf")
    'A-12-scale.pdf'
    """
    return NOT_IN_A_NAME.sub("-", words)


def ask_where(parent: QWidget, title: str, name: str, kinds: str) -> Path | None:
    """The path that was chosen, with the suffix of ``name`` where none was typed; None when the person thought better."""
    chosen, _kind = QFileDialog.getSaveFileName(parent, title, file_name(name), kinds)
    if not chosen:
        return None
    path = Path(chosen)
    return path if path.suffix else path.with_name(path.name + Path(name).suffix)
