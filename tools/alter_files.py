"""Alters files that come from elsewhere at random and reads them, to see that each is read or refused in a sentence.

    python tools/alter_files.py 5000          each kind so many times
    python tools/alter_files.py 500 xlsx      one kind alone

Counts what was read, what was refused, and what ended otherwise; the last is to be none. Readers run here, one after the
other and without limits, for their faults to be seen: `formats.apart` holds them to memory and time where a shop uses them.
"""

from __future__ import annotations

import hashlib
import json
import random
import sys
import tempfile
import traceback
import zipfile
from collections import Counter
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial
from io import BytesIO
from pathlib import Path

import openpyxl
from babel.messages.catalog import Catalog
from babel.messages.pofile import write_po
from PIL import Image

from reckoner.core.errors import Refused
from reckoner.demo import shipped
from reckoner.formats.attachedfile import read_attached
from reckoner.formats.catalogues import SHIPPED, compiled
from reckoner.formats.jobcard import read_card
from reckoner.formats.languages import read_words
from reckoner.formats.resultfile import read as read_result
from reckoner.formats.resultfile import written
from reckoner.formats.rulesets import load as read_rules
from reckoner.formats.rulesets import shipped_text
from reckoner.formats.tables import read_as_text, read_table
from reckoner.shop.papers.resultfiles import result_file
from reckoner.shop.records import exporting
from reckoner.shop.records.importing import read_handed
from reckoner.shop.register.registerfile import read_tables
from reckoner.shop.runs.loading import load as load_run
from reckoner.store.archive import FOLDER, samples_in
from reckoner.store.database import Database
from reckoner.store.reader import reader_of


def samples(folder: Path) -> dict[str, tuple[bytes, Callable[[Path], object]]]:
    """By its kind, a file as it should be, and what reads it."""
    shipped.put(folder)
    database = Database(folder)
    with database.session() as session:
        reader = reader_of(session)
        exchange = json.dumps(exporting.exchange(reader, datetime(2026, 11, 24, 9, 30, tzinfo=UTC))).encode()
        card = str(reader.value("SELECT document FROM job_card LIMIT 1")).encode()
        run = load_run(session, int(reader.value("SELECT max(run_id) FROM signature")))
        result = written(result_file(session, run))
        exporting.table_file(session, "tools", folder / "tools.csv")()
        table = (folder / "tools.csv").read_bytes()
    database.close()
    return {
        "csv": (table, read_table),
        "xlsx": (_workbook(table), read_table),
        "exchange": (exchange, read_handed),
        "card": (card, read_card),
        "result": (result, read_result),
        "register": (REGISTER.encode(), read_tables),
        "rules": (shipped_text("quick-check").encode(), read_rules),
        "points": (b"target N.m;shown N.m;U %\n20;20.1;0.4\n100;100.3;0.3\n", read_as_text),
        "png": (_picture("PNG"), partial(read_attached, is_printed=True)),
        "jpeg": (_picture("JPEG"), partial(read_attached, is_printed=True)),
        "catalogue": (_catalogue(), compiled),
        "words": ((SHIPPED / "de.toml").read_bytes(), read_words),
        "archive": (_archive(), _trace_in),
    }


REGISTER = """
people = [{ initials = "K. L.", name = "K. Loft" }]
[[models]]
maker = "Skerrivane"
name = "C-100"
type = "II"
class = "A"
mechanism = "click"
minimum = "20 N.m"
maximum = "100 N.m"
[[tools]]
number = "W-1"
model = "Skerrivane C-100"
"""


def _workbook(table: bytes) -> bytes:
    book = openpyxl.Workbook()
    for line in table.decode("utf-8-sig").splitlines():
        book.active.append(line.split(";"))
    out = BytesIO()
    book.save(out)
    return out.getvalue()


def _picture(kind: str) -> bytes:
    out = BytesIO()
    Image.effect_noise((64, 48), 80).save(out, kind)
    return out.getvalue()


def _catalogue() -> bytes:
    out = BytesIO()
    catalogue = Catalog(locale="de")
    catalogue.add("{tool} is due", "{tool} ist fällig")
    catalogue.add(("{n} tool", "{n} tools"), ("{n} Schlüssel", "{n} Schlüssel"))
    write_po(out, catalogue)
    return out.getvalue()


def _archive() -> bytes:
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("1.f32", random.Random(1).randbytes(8000))
    return out.getvalue()


def _trace_in(path: Path) -> object:
    beside = path.parent / FOLDER
    beside.mkdir(exist_ok=True)
    path.replace(beside / "traces-2026-01-01.zip")
    return samples_in(path.parent, {1: hashlib.sha256(random.Random(1).randbytes(8000)).hexdigest()})


def altered(content: bytes, chance: random.Random) -> bytes:
    """Some bytes changed, taken away, put in, said twice, or all of what is packed in it altered and packed anew."""
    made = bytearray(content)
    if content[:2] == b"PK" and chance.random() < 0.7:
        return _packed_anew(content, chance)
    for _ in range(chance.choice((1, 1, 2, 5, 20))):
        at = chance.randrange(len(made) + 1)
        length = chance.choice((1, 1, 2, 8, 100))
        match chance.randrange(6):
            case 0 if at < len(made):
                made[at] ^= 1 << chance.randrange(8)
            case 1:
                del made[at : at + length]
            case 2:
                made[at:at] = chance.randbytes(length)
            case 3:
                made[at:at] = made[at : at + 10 * length]
            case 4:
                made[at : at + length] = chance.choice(NASTY)
            case _:
                del made[at:]
    return bytes(made)


NASTY = (
    b"1e999", b"NaN", b"-1", b"null", b"[]", b"{}", b'""', b"\x00", b"\xff\xfe", b"true", b"9" * 400, b"[" * 3000, b"1_000",
    b"2026-02-30", b"=1+1", b"\xe2\x80\xae", b"&lt;", b"<a>", b"..", b"1.5 N.m",
)  # fmt: skip
"""What stands where something else should."""


def _packed_anew(content: bytes, chance: random.Random) -> bytes:
    out = BytesIO()
    with zipfile.ZipFile(BytesIO(content)) as packed, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as anew:
        names = packed.namelist()
        spoiled = chance.choice(names)
        for name in names:
            data = packed.read(name)
            if name == spoiled and chance.random() < 0.1:
                continue
            anew.writestr(name, altered(data, chance) if name == spoiled else data)
    return out.getvalue()


ENDINGS = {kind: kind for kind in ("csv", "xlsx", "png", "jpeg")} | {
    "points": "txt", "rules": "toml", "register": "toml", "archive": "zip",
    "catalogue": "po", "words": "toml",
}  # fmt: skip


def main(times: int, kinds: list[str]) -> int:
    """Alter and read; 1 where anything ended otherwise than read or refused."""
    wrong = 0
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        for kind, (content, read) in samples(folder / "shop").items():
            if kinds and kind not in kinds:
                continue
            ended: Counter[str] = Counter()
            whole = folder / f"whole.{ENDINGS.get(kind, 'json')}"
            whole.write_bytes(content)
            read(whole)
            for seed in range(times):
                path = folder / f"file.{ENDINGS.get(kind, 'json')}"
                path.write_bytes(altered(content, random.Random(seed)))
                try:
                    read(path)
                    ended["read"] += 1
                except Refused:
                    ended["refused"] += 1
                except Exception:  # noqa: BLE001 - whatever it is, it is what is looked for
                    ended[f"seed {seed}: {traceback.format_exc(limit=-1).splitlines()[-1][:120]}"] += 1
            faults = sum(ended.values()) - ended["read"] - ended["refused"]
            wrong += faults
            print(f"{kind:9} {ended['read']:6} read {ended['refused']:6} refused {faults:6} otherwise")
            for words in [words for words in ended if words.startswith("seed")][:5]:
                print(f"          {words}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 300, sys.argv[2:]))
