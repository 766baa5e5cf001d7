"""A language that nobody speaks, in which a letter that did not pass the translation shows: each word's letters are Greek,
and there are two fifths more of them, as in languages that are longer than English."""

import json
import math
import re
import tomllib
from io import BytesIO
from pathlib import Path

from babel.messages import Catalog
from babel.messages.extract import extract_from_dir
from babel.messages.pofile import write_po

import reckoner

SOURCES = Path(reckoner.__file__).parent
KEYWORDS = {"tr": None, "mark": None, "tr_count": (1, 2)}
LONGER = 1.4


def pseudo(text: str) -> str:
    """``text`` in Greek letters, its blanks as they are."""
    parts = re.split(r"(\{[^{}]*\})", text)
    return "".join(part if i % 2 else re.sub("[A-Za-z]+", _word, part) for i, part in enumerate(parts))


def _word(found: re.Match[str]) -> str:
    return "λ" * math.ceil(len(found[0]) * LONGER)


def catalogue() -> bytes:
    """Every text of the program in that language."""
    made = Catalog(locale="eo")
    for _file, _line, text, _comments, _context in extract_from_dir(SOURCES, keywords=KEYWORDS):
        made.add(text, tuple(map(pseudo, text)) if isinstance(text, tuple) else pseudo(text))
    out = BytesIO()
    write_po(out, made)
    return out.getvalue()


def papers() -> str:
    """The words of papers in that language."""
    english = tomllib.loads((SOURCES / "formats" / "languages" / "en.toml").read_text(encoding="utf-8"))
    lines = []
    for name, value in english.items():
        if isinstance(value, dict):
            lines += [f"[{name}]", *(f"{key} = {json.dumps(pseudo(words))}" for key, words in value.items())]
        elif isinstance(value, list):
            lines.append(f"{name} = {json.dumps([pseudo(one) for one in value])}")
        else:
            lines.append(f"{name} = {json.dumps(pseudo(value))}")
    return "\n".join(lines)
