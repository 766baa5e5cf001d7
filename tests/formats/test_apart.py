"""Files from elsewhere are read in a process of their own: what they do to it is a sentence here, and no more."""

import io
import os
import pickle
import struct
import threading
import time
import zipfile
import zlib
from functools import partial
from pathlib import Path

import openpyxl
import pytest

from reckoner.formats import apart as apart_module
from reckoner.formats.apart import _Checked, apart, stop
from reckoner.formats.attachedfile import read_attached
from reckoner.formats.catalogues import compiled
from reckoner.formats.exchange import load
from reckoner.formats.languages import read_words
from reckoner.formats.refusals import FileRefused
from reckoner.formats.rulesets import load as load_rules
from reckoner.formats.tables import read_table


def dies(path: Path) -> None:
    os.abort()


def waits(path: Path) -> None:
    time.sleep(3600)


def stumbles(path: Path) -> None:
    raise KeyError(path)


def prints(path: Path) -> tuple[str, ...]:
    print("a library tells something")
    return (path.read_text(encoding="utf-8"),)


def writes(path: Path) -> None:
    path.with_suffix(".made").write_bytes(b"planted")


def bytes_of_json(size: int) -> bytes:
    return b'{"format": "reckoner-exchange", "version": 1, "x": [' + b"{}," * (size // 3) + b"1]}"


def packed(path: Path) -> None:
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as book:
        for name in ("[Content_Types].xml", "xl/workbook.xml", "xl/worksheets/sheet1.xml"):
            book.writestr(name, b"<row>" * 20_000_000)


def test_what_is_read_is_what_was_there(tmp_path):
    book = openpyxl.Workbook()
    book.active.append(["Number", "Model"])
    book.active.append(["W-1", "=1+1"])
    book.save(tmp_path / "tools.xlsx")
    assert apart(read_table, tmp_path / "tools.xlsx") == read_table(tmp_path / "tools.xlsx")
    with pytest.raises(FileRefused, match="not UTF-8"):
        apart(load, tmp_path / "tools.xlsx")
    (tmp_path / "words").write_text("four words stand here", encoding="utf-8")
    assert apart(prints, tmp_path / "words") == ("four words stand here",)


def pixels(path: Path) -> None:
    head = b"IHDR" + struct.pack(">IIBBBBB", 60_000, 60_000, 8, 2, 0, 0, 0)
    path.write_bytes(b"\x89PNG\r\n\x1a\n" + struct.pack(">I", 13) + head + struct.pack(">I", zlib.crc32(head)))


@pytest.mark.parametrize(
    ("read", "content", "told"),
    [
        (read_table, lambda path: path.write_bytes(b"\n" * 19_999_999), "takes more than 300 MB"),
        (load, lambda path: path.write_bytes(bytes_of_json(19_000_000)), "takes more than 300 MB"),
        (read_table, packed, "far more than a register"),
        (load_rules, lambda path: path.write_bytes(b"x = " + b"7" * 19_000_000), "takes more than 300 MB"),
        (partial(read_attached, is_printed=True), pixels, "no picture that can be printed"),
        (compiled, lambda path: path.write_bytes(b"x" * 21_000_000), "larger than 20 MB"),
        (read_words, lambda path: path.write_bytes(b"x = " + b"[" * 100_000), "nested too deeply"),
    ],
    ids=["empty lines", "empty objects", "packed", "rules", "picture", "catalogue", "words"],
)
def test_what_would_take_all_memory_takes_its_share_and_is_refused(tmp_path, read, content, told):
    path = tmp_path / "bomb"
    content(path)
    given = read.keywords if isinstance(read, partial) else {}
    with pytest.raises(FileRefused, match=told):
        apart(getattr(read, "func", read), path, **given)


@pytest.mark.parametrize("read", [dies, stumbles, writes])
def test_a_reader_that_ends_otherwise_is_a_sentence_and_a_line_in_the_log(tmp_path, caplog, read):
    with pytest.raises(FileRefused, match=r"f\.csv: it is damaged, or is no file of this kind"):
        apart(read, tmp_path / "f.csv")
    assert "ended with" in caplog.text
    assert not any(made.stat().st_size for made in tmp_path.iterdir())


def test_what_takes_too_long_ends_by_itself_and_what_is_stopped_at_once(tmp_path, monkeypatch):
    with monkeypatch.context() as patched:
        patched.setattr(apart_module, "MOST_SECONDS", 0.5)
        with pytest.raises(FileRefused, match="takes longer than"):
            apart(waits, tmp_path / "f.csv")
    told = []

    def read():
        try:
            apart(waits, tmp_path / "f.csv")
        except FileRefused as refusal:
            told.append(str(refusal))

    reading = threading.Thread(target=read)
    reading.start()
    while not apart_module._running:
        time.sleep(0.01)
    stop()
    reading.join()
    assert told == ["f.csv: reading it was stopped; nothing of it was kept"]


def test_an_answer_can_only_be_values():
    others = b"creckoner.formats.apart\nPath\n."  # a class of another's by way of ours
    for harmful in (*map(pickle.dumps, (os.system, eval, apart, open)), others):
        with pytest.raises(pickle.UnpicklingError):
            _Checked(io.BytesIO(harmful)).load()
