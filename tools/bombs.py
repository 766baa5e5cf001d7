"""Files that are made to take all memory, all time or all depth, each read as a shop reads it: in a process of its own.

    python tools/bombs.py                 all of them
    python tools/bombs.py xlsx picture    those whose name has one of these words

Each is to end as read or as refused in a sentence, within the limits of `formats.apart`; 1 where one did not.
"""

from __future__ import annotations

import os
import resource
import shutil
import struct
import sys
import tempfile
import time
import zipfile
import zlib
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path

from reckoner.core.errors import Refused
from reckoner.formats.apart import MOST_MEMORY, MOST_SECONDS, apart
from reckoner.formats.attachedfile import MOST_PIXELS, read_attached
from reckoner.formats.catalogues import compiled
from reckoner.formats.jobcard import read_card
from reckoner.formats.languages import read_words
from reckoner.formats.resultfile import read as read_result
from reckoner.formats.rulesets import load as read_rules
from reckoner.formats.tables import read_as_text, read_table
from reckoner.shop.records.importing import read_handed
from reckoner.shop.register.registerfile import read_tables
from reckoner.store.archive import FOLDER, samples_in

FULL = 19_900_000
"""Bytes of a text that is just not too large to be looked at."""

PROGRAM = 200_000_000
"""Bytes that the program itself takes in such a process, at most."""

ENDING = 5
"""s that a process may take to begin and to end."""

Bomb = tuple[str, Callable[[Path], object], Callable[[Path], object]]
"""A name with its ending, what reads it, and what makes it."""


def bombs() -> Iterator[Bomb]:
    """All of them."""

    def of(content: bytes) -> Callable[[Path], object]:
        return lambda path: path.write_bytes(content)

    yield "empty lines.csv", read_table, of(b"\n" * FULL)
    yield "one line.csv", read_table, of(b"x" * FULL)
    yield "a quote that never ends.csv", read_table, of(b'a;b\n"' + b"x;\n" * (FULL // 3))
    yield "empty cells.csv", read_table, of(b"a;b\n" + b";" * FULL)
    yield "wide and long.csv", read_table, of((b";" * 99 + b"\n") * (FULL // 100))
    yield "too large.csv", read_table, of(b"a;b\n" * 6_000_000)
    yield "two bytes a letter.csv", read_table, of(b"\xff\xfe" + b"\x00" * FULL)
    yield "without an end.csv", read_table, lambda path: path.symlink_to("/dev/zero")
    yield "a pipe.csv", read_table, os.mkfifo
    yield "a circle of links.csv", read_table, lambda path: path.symlink_to(path.name)
    yield "two gigabytes.xlsx", read_table, partial(_packed, names=BOOK, size=2_000_000_000)
    yield "many entries.xlsx", read_table, partial(_packed, names=[f"{n:05}" * 40 for n in range(60_000)], size=0)
    yield "laughs.xlsx", read_table, partial(_packed, names=BOOK, content=_laughs())
    yield "a cell far away.xlsx", read_table, partial(_packed, names=BOOK, content=FAR)
    yield (
        "empty objects.json",
        read_handed,
        of(b'{"format": "reckoner-exchange", "x": [' + b"{}," * (FULL // 3) + b"1]}"),
    )
    yield "depth.json", read_handed, of(b"[" * FULL)
    yield "a long number.json", read_handed, of(b'{"format": "reckoner-exchange", "version": ' + b"9" * FULL + b"}")
    yield "one name again and again.json", read_handed, of(b"{" + b'"format":1,' * (FULL // 11) + b'"x":1}')
    yield "numbers result.json", read_result, of(b"[" + b"1," * (FULL // 2) + b"1]")
    yield "letters card.json", read_card, of(b'{"format": "' + b"\\u0000" * (FULL // 6) + b'"}')
    yield "depth register.toml", read_tables, of(b"x = " + b"[" * FULL)
    yield "depth of names register.toml", read_tables, of(b"a." * (FULL // 2) + b"a = 1")
    yield "tables rules.toml", read_rules, of(b"[[limits]]\n" * (FULL // 11))
    yield "a long number rules.toml", read_rules, of(b"x = " + b"7" * FULL)
    yield "lines points.txt", read_as_text, of(b"20;20.1;0.4\n" * (FULL // 12))
    yield "wide picture.png", partial(read_attached, is_printed=True), partial(_picture, wide=60_000, high=60_000)
    yield (
        "picture as large as may be.png",
        partial(read_attached, is_printed=True),
        partial(_picture, wide=MOST_PIXELS // 6000, high=6000),
    )
    yield (
        "words in a picture.png",
        partial(read_attached, is_printed=True),
        partial(_picture, wide=8, high=8, words=10**9),
    )
    yield "a folder with an archive", partial(samples_in, wanted={1: "0" * 64}), partial(_archive, size=2_000_000_000)
    yield "texts catalogue.po", compiled, of(b'msgid "x"\nmsgstr "y"\n\n' * (FULL // 23))
    yield (
        "plural catalogue.po",
        compiled,
        of(b'msgid ""\nmsgstr "Plural-Forms: nplurals=2; plural=' + b"(" * 500_000 + b'n;\\n"\n'),
    )
    yield "depth words.toml", read_words, of(b"x = " + b"{a=" * (FULL // 3))


BOOK = ["[Content_Types].xml", "xl/workbook.xml", "xl/sharedStrings.xml", "xl/worksheets/sheet1.xml"]
FAR = b'<worksheet><sheetData><row r="1048576"><c r="XFD1048576"><v>1</v></c></row></sheetData></worksheet>'


def _packed(path: Path, names: list[str], size: int = 0, content: bytes = b"") -> None:
    part = b"<row>" * 200_000
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED, compresslevel=9) as book:
        for name in names:
            with book.open(name, "w", force_zip64=True) as entry:
                entry.write(content)
                for _ in range(size // len(part)):
                    entry.write(part)


def _laughs() -> bytes:
    kinds = "".join(f'<!ENTITY a{n} "{f"&a{n - 1};" * 10}">' for n in range(1, 12))
    return f'<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a0 "ha">{kinds}]><x>&a11;</x>'.encode()


def _picture(path: Path, wide: int, high: int, words: int = 0) -> None:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    pack = zlib.compressobj(1)
    line = bytes(1 + 8 * min(wide, 10_000))
    data = b"".join([*(pack.compress(line) for _ in range(min(high, 6000))), pack.flush()])
    told = chunk(b"zTXt", b"k\0\0" + zlib.compress(bytes(words), 1)) if words else b""
    head = struct.pack(">IIBBBBB", wide, high, 16, 6, 0, 0, 0)
    whole = [b"\x89PNG\r\n\x1a\n", chunk(b"IHDR", head), told, chunk(b"IDAT", data), chunk(b"IEND", b"")]
    path.write_bytes(b"".join(whole))


def _archive(path: Path, size: int) -> None:
    folder = path / FOLDER
    folder.mkdir(parents=True)
    _packed(folder / "traces-2026-01-01.zip", ["1.f32"], size)


def main(words: list[str]) -> int:
    """Make and read each; 1 where one ended otherwise than it may."""
    wrong = 0
    with tempfile.TemporaryDirectory() as folder:
        for name, read, make in bombs():
            if words and not any(word in name for word in words):
                continue
            path = Path(folder) / name
            make(path)
            began = time.monotonic()
            try:
                read_apart(read, path)
                ended = "read"
            except Refused as refusal:
                ended = str(refusal).removeprefix(f"{name}: ")[:70]
            took = time.monotonic() - began
            most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss * 1024
            beyond = took > MOST_SECONDS + ENDING or most > MOST_MEMORY + PROGRAM
            wrong += beyond
            print(
                f"{name:32}{took:6.1f} s {most / 1e6:6.0f} MB at most so far  {'BEYOND: ' if beyond else ''}{ended}",
                flush=True,
            )
            if path.is_dir():
                shutil.rmtree(path)
            else:
                path.unlink(missing_ok=True)
    return 1 if wrong else 0


def read_apart(read: Callable[..., object], path: Path) -> None:
    """As the shop does, with what is given beside the path."""
    if isinstance(read, partial):
        apart(read.func, path, **read.keywords)
    else:
        apart(read, path)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
