"""Colours by meaning, light and dark in one record each; and the grid. Light: the frame is painted with them before
anything else has loaded.

Contrast: at least 4.5:1 for words, 7:1 for readings; a test measures it.
"""

from __future__ import annotations

from typing import NamedTuple

from PyQt6.QtGui import QColor

GRID = 8
"""Every distance in the window is a multiple of this, in pixels (halves inside small drawings)."""


class Tokens(NamedTuple):
    """Colours by meaning."""

    frame: str
    ground: str
    surface: str
    line: str
    ink: str
    quiet: str
    frame_quiet: str
    accent: str
    on_accent: str
    accent_wash: str
    inside: str
    near: str
    near_wash: str
    near_hatch: str
    outside: str
    post: str
    tag: str
    tag_held: str
    focus: str


LIGHT = Tokens(
    frame="#CFD9D1",
    ground="#EBEFEA",
    surface="#FAFCF9",
    line="#C3CEC6",
    ink="#1B2730",
    quiet="#55616B",
    frame_quiet="#44505A",
    accent="#1D4E79",
    on_accent="#FFFFFF",
    accent_wash="#DDE7F0",
    inside="#0E6F6A",
    near="#8A5A0C",
    near_wash="#F7EBD2",
    near_hatch="#E7CF9F",
    outside="#B5382A",
    post="#1B2730",
    tag="#FAFCF9",
    tag_held="#D5DBD5",
    focus="#1D4E79",
)

DARK = Tokens(
    frame="#12181B",
    ground="#1A2125",
    surface="#232C31",
    line="#3B474D",
    ink="#EAF0EC",
    quiet="#A9B6B8",
    frame_quiet="#A9B6B8",
    accent="#8FC0EC",
    on_accent="#0E1B26",
    accent_wash="#2A3B49",
    inside="#5CC9C0",
    near="#E8B357",
    near_wash="#453A20",
    near_hatch="#6B5829",
    outside="#FF9683",
    post="#EAF0EC",
    tag="#232C31",
    tag_held="#39444A",
    focus="#8FC0EC",
)


def colour(token: str) -> QColor:
    """A token as Qt paints it."""
    return QColor(token)
