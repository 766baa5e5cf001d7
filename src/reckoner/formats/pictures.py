"""Pictures that are printed: whether bytes are one."""

from __future__ import annotations

import io

MOST_PIXELS = 40_000_000
"""More than any sheet can show, and few enough to be held."""

KINDS = ("PNG", "JPEG")


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
