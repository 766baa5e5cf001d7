"""A file that is kept as it is with a row of the register: a photo, a scanned certificate, the head of papers."""

from __future__ import annotations

import io
from pathlib import Path

from reckoner.core.translation import tr
from reckoner.formats.files import TextRefused, read_bytes
from reckoner.formats.refusals import FileRefused

LARGEST = 25_000_000
"""Bytes of a file that is kept: a photo or a scanned certificate, not a film."""

MOST_PIXELS = 40_000_000
"""More than any sheet can show, and few enough to be held."""

KINDS = ("PNG", "JPEG")


def read_attached(path: Path, is_printed: bool = False) -> bytes:
    """What the file at ``path`` holds; where it ``is_printed``, it is a picture that can be. Raises FileRefused."""
    most = LARGEST // 1_000_000
    try:
        data = read_bytes(
            path, LARGEST, tr("it is larger than {most} MB; make it smaller, or keep it elsewhere", most=most)
        )
    except TextRefused as refusal:
        raise FileRefused(path.name, (refusal.why,)) from None
    if is_printed and not is_picture(data):
        raise FileRefused(path.name, (tr("it is no picture that can be printed; take a PNG or a JPEG"),))
    return data


def is_picture(data: bytes) -> bool:
    """Whether ``data`` is a whole PNG or JPEG of a size that can be printed; never raises for what it is given."""
    from PIL import Image, UnidentifiedImageError  # takes a while to load

    try:
        with Image.open(io.BytesIO(data), formats=KINDS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                return False
            picture.load()
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        return False
    return True
