"""Spreadsheets as tables of text: CSV with whatever divides it and in whatever encoding, and XLSX.

Nothing is understood here. Cells are text: a day as 2026-03-09, a whole number without a decimal point. What a formula gave
counts where the file holds it; a formula without a result is told as one.

A run's readings as a CSV file, to be read by a person or a spreadsheet.
"""

from __future__ import annotations

import codecs
import csv
import io
import re
import zipfile
import zlib
from collections.abc import Collection, Iterable, Sequence
from dataclasses import astuple, dataclass, fields
from datetime import date, datetime
from itertools import islice
from pathlib import Path
from typing import Any

from reckoner.core.translation import tr
from reckoner.formats.files import FileNotWritten, TextRefused, read_bytes, write_whole
from reckoner.formats.refusals import FileRefused

MOST_BYTES = 20_000_000
MOST_UNPACKED = 200_000_000
MOST_ROWS = 20_000
MOST_COLUMNS = 100
"""More than any register of tools has; beyond them the file is another one."""

FORMULA = tr("a formula without a result")
"""What stands for a cell whose result the file does not hold."""


class TableRefused(FileRefused):
    """A spreadsheet cannot be read."""


@dataclass(frozen=True)
class Table:
    """The names of the columns, and the rows below them as (line in the file, cells); every row has as many cells."""

    source: str
    columns: tuple[str, ...]
    rows: tuple[tuple[int, tuple[str, ...]], ...]


def read_table(path: Path, least: int = 2) -> Table:
    """The table in a file; the first line with at least so many words names its columns. Raises TableRefused with a
    sentence."""
    data = _content(path)
    lines = _sheet(data, path.name) if _is_sheet(data) else _csv(data, path.name)
    return _table(lines, path.name, least)


def read_as_text(path: Path) -> str:
    """A file's lines as text, the cells of a spreadsheet divided by tabs. Raises TableRefused with a sentence."""
    data = _content(path)
    if not _is_sheet(data):
        return decoded(data)
    lines = ("\t".join(" ".join(cell.split()) for cell in cells).rstrip() for _, cells in _sheet(data, path.name))
    return "\n".join(line for line in lines if line)


OLD_SHEET = b"\xd0\xcf\x11\xe0"
"""What the files of XLS begin with."""


def _is_sheet(data: bytes) -> bool:
    return data[:2] == b"PK" or data[:4] == OLD_SHEET


def _sheet(data: bytes, source: str) -> list[tuple[int, list[str]]]:
    """The lines of a workbook: XLSX, or what else offices write."""
    is_open = data[:2] == b"PK" and b"opendocument" in data[:200]
    return _old_or_open(data, source) if is_open or data[:4] == OLD_SHEET else _xlsx(data, source)


def _old_or_open(data: bytes, source: str) -> list[tuple[int, list[str]]]:
    """The cells of the first sheet of an ODS or XLS that holds any."""
    from python_calamine import CalamineError, CalamineWorkbook  # loads slowly

    try:
        book = CalamineWorkbook.from_filelike(io.BytesIO(data))
        for name in book.sheet_names:
            found = book.get_sheet_by_name(name).to_python(skip_empty_area=False, nrows=MOST_ROWS + 100)
            if any(cell not in ("", None) for cells in found for cell in cells):
                return [(i + 1, [_text(cell, cell) for cell in cells[:MOST_COLUMNS]]) for i, cells in enumerate(found)]
    except (CalamineError, ValueError, OSError) as fault:
        words = tr("it cannot be read as a workbook ({name}); save it anew, or as CSV", name=type(fault).__name__)
        raise TableRefused(source, (words,)) from None
    return []


def _content(path: Path) -> bytes:
    too_large = tr(
        "it is larger than {most_bytes} MB; save the sheet with the tools alone", most_bytes=MOST_BYTES // 1000000
    )
    try:
        return read_bytes(path, MOST_BYTES, too_large)
    except TextRefused as refusal:
        raise TableRefused(path.name, (refusal.why,)) from None


def _table(lines: Iterable[tuple[int, list[str]]], source: str, least: int = 2) -> Table:
    """The first line with at least so many words in it names the columns."""
    columns: list[str] | None = None
    rows = []
    for number, cells in lines:
        cells = [cell.strip() for cell in cells[:MOST_COLUMNS]]
        if columns is None:
            if sum(bool(cell) for cell in cells) >= least:
                columns = cells
            continue
        if any(cells):
            rows.append((number, cells))
        if len(rows) > MOST_ROWS:
            raise TableRefused(
                source, (tr("it has more than {most_rows} rows; bring it in in parts", most_rows=MOST_ROWS),)
            )
    if columns is None:
        raise TableRefused(source, (tr("it names no columns; its first line has to say what each column is"),))
    used = [i for cells in (columns, *(c for _, c in rows)) for i, cell in enumerate(cells) if cell]
    wide = max(used) + 1

    def filled(cells: list[str]) -> tuple[str, ...]:
        return tuple(cells[:wide] + [""] * (wide - len(cells)))

    return Table(source, filled(columns), tuple((number, filled(cells)) for number, cells in rows))


def _csv(data: bytes, source: str) -> list[tuple[int, list[str]]]:
    text = decoded(data)
    if "\x00" in text:
        raise TableRefused(source, (tr("it is not a spreadsheet; save it as CSV or XLSX"),))
    divider = _divider(text)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=divider)
        return [(reader.line_num, cells) for cells in reader]
    except csv.Error as fault:
        raise TableRefused(source, (tr("it cannot be read as CSV: {fault}", fault=fault),)) from None


def decoded(data: bytes) -> str:
    """The text of bytes in any encoding that spreadsheets write: those with a mark at their beginning, UTF-8, else the one
    of the code pages that its words fit best, else Windows 1252, which gives every byte a meaning."""
    for mark, name in (
        (codecs.BOM_UTF8, "utf-8-sig"),
        (codecs.BOM_UTF16_LE, "utf-16"),
        (codecs.BOM_UTF16_BE, "utf-16"),
    ):
        if data.startswith(mark):
            return data.decode(name, "replace")
    if data[1:200:2].count(0) > len(data[:200]) // 4:
        return data.decode("utf-16-le", "replace")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        return data.decode(_code_page(data), "replace")


CODE_PAGES = ["cp1252", "cp1250", "cp1251", "cp437", "cp850", "mac_roman", "iso8859_2"]


def _code_page(data: bytes) -> str:
    from charset_normalizer import from_bytes  # loads slowly, and most files do not need it

    best = from_bytes(data[:65_536], cp_isolation=CODE_PAGES).best()
    return best.encoding if best is not None else "cp1252"


def _divider(text: str) -> str:
    """What divides the cells: the sign that is there most evenly in the first lines, outside quotes."""
    lines = [line for line in text.splitlines()[:30] if line.strip()]
    best, most = ",", 0.0
    for sign in (";", "\t", ",", "|"):
        counts = [
            sum(1 for i, part in enumerate(line.split('"')) if i % 2 == 0 for c in part if c == sign) for line in lines
        ]
        if not counts or not counts[0]:
            continue
        same = sum(count == counts[0] for count in counts) / len(counts)
        score = same * min(counts[0], 20) + (0.5 if sign != "," else 0.0)
        if score > most:
            best, most = sign, score
    return best


DAMAGED = (
    zipfile.BadZipFile, zlib.error, EOFError, OSError, SyntaxError, ArithmeticError, AttributeError, LookupError,
    RuntimeError, TypeError, ValueError,
)  # fmt: skip
"""What the libraries do with a workbook that was altered: its parts, their XML, and what they say of each other."""


def _xlsx(data: bytes, source: str) -> list[tuple[int, list[str]]]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            unpacked = sum(part.file_size for part in packed.infolist())
            if unpacked > MOST_UNPACKED:
                raise TableRefused(
                    source, (tr("it holds far more than a register; save the sheet with the tools alone"),)
                )
        written, results = _cells(data, formulas=True), _cells(data, formulas=False)
    except TableRefused:
        raise
    except DAMAGED as fault:
        raise TableRefused(
            source, (tr("it cannot be read as XLSX ({name}); save it anew, or as CSV", name=type(fault).__name__),)
        ) from None
    lines = []
    for i, (cells, given) in enumerate(zip(written, results, strict=False)):
        lines.append((i + 1, [_text(w, g) for w, g in zip(cells, given, strict=False)]))
    return lines


def _cells(data: bytes, *, formulas: bool) -> list[tuple[Any, ...]]:
    """The cells of the first sheet that holds any."""
    from openpyxl import load_workbook  # loads slowly

    book = load_workbook(io.BytesIO(data), read_only=True, data_only=not formulas)
    try:
        for sheet in book.worksheets:
            lines = sheet.iter_rows(max_col=MOST_COLUMNS, max_row=MOST_ROWS + 100)
            rows = [tuple(_value(cell) for cell in line) for line in lines]
            if any(cell is not None for row in rows for cell in row):
                return rows
        return []
    finally:
        book.close()


def _value(cell: Any) -> Any:
    """What a cell holds; a share that the sheet shows as per cent is said as per cent."""
    value = cell.value
    if isinstance(value, (int, float)) and not isinstance(value, bool) and "%" in (cell.number_format or ""):
        return f"{value * 100:.12g} %"
    return value


def _text(written: Any, result: Any) -> str:
    """A cell as text."""
    value = result
    if isinstance(written, str) and written.startswith("=") and result is None:
        return FORMULA
    match value:
        case None:
            return ""
        case bool():
            return "yes" if value else "no"
        case datetime():
            return value.date().isoformat() if (value.hour, value.minute) == (0, 0) else value.isoformat(" ")
        case date():
            return value.isoformat()
        case float() if value == int(value) and abs(value) < 1e15:
            return str(int(value))
        case float():
            return repr(round(value, 12))
        case _:
            return str(value)


SHEET_ROWS = 1_048_575
"""Rows of a sheet of a workbook, beside the names of its columns."""


def write_table(path: Path, columns: Iterable[str], rows: Collection[Iterable[str]]) -> int:
    """Write a table into a file, whole or not at all: XLSX where its name ends so, on as many sheets as it needs, else CSV;
    returns how many rows it has. Raises TableRefused."""
    named = list(columns)
    is_book = path.suffix.casefold() == ".xlsx"
    data = _written_book(named, rows) if is_book else written_csv(named, rows).encode("utf-8")
    try:
        write_whole(path, data)
    except FileNotWritten as refusal:
        raise TableRefused(path.name, (tr("it cannot be written: {strerror}", strerror=refusal.why),)) from None
    return len(rows)


def _written_book(columns: Sequence[str], rows: Collection[Iterable[str]]) -> bytes:
    from openpyxl import Workbook  # loads slowly

    book = Workbook(write_only=True)  # row by row: nothing of it is held
    words = [any(word in name.casefold() for word in WORDS) for name in columns]
    left = iter(rows)
    for first in range(1, max(2, len(rows) + 1), SHEET_ROWS):
        last = min(first + SHEET_ROWS - 1, len(rows))
        sheet = book.create_sheet(
            tr("Rows {first} to {last}", first=first, last=last) if len(rows) > SHEET_ROWS else None
        )
        sheet.append([_harmless(cell) for cell in columns])
        for row in islice(left, SHEET_ROWS):
            sheet.append([_harmless(c) if w else _typed(c) for c, w in zip(row, words, strict=True)])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def written_csv(columns: Iterable[str], rows: Iterable[Iterable[str]]) -> str:
    """A table as CSV that spreadsheets open as they stand: what would be taken for a formula is kept as words."""
    out = io.StringIO()
    writer = csv.writer(out, delimiter=";", lineterminator="\r\n")
    writer.writerow([_harmless(c) for c in columns])
    for row in rows:
        writer.writerow([_harmless(c) for c in row])
    return "\ufeff" + out.getvalue()


WORDS = ("number", "serial", "certificate", "tool", "model", "link", "note", "remark")
"""Columns of these names hold words, however much they look like figures."""

_FIGURE = re.compile(r"-?(0|[1-9]\d{0,14})(\.\d+)?")


_NEGATIVE = re.compile(r"-[\d.,\u202f]+[ \u202f]?[%\w·°]*")
"""A negative number, with its unit at most: whatever else begins with "-" could be a formula."""


def _typed(cell: str) -> str | float | int | date:
    """A cell of a workbook: figures as numbers, days as days, the rest as words."""
    if _FIGURE.fullmatch(cell):
        return float(cell) if "." in cell else int(cell)
    if re.fullmatch(r"\d{4}-\d\d-\d\d", cell):
        try:
            return date.fromisoformat(cell)
        except ValueError:
            return cell
    return _harmless(cell)


def _harmless(cell: str) -> str:
    """A cell that begins as a formula does, behind an apostrophe, which spreadsheets read as "just words"."""
    begins = cell[:1] in ("=", "+", "@", "\t", "\r", "\n") or (cell[:1] == "-" and not _NEGATIVE.fullmatch(cell))
    return f"'{cell}" if begins else cell


@dataclass(frozen=True)
class ReadingLine:
    """One reading, as it stands in the file; torques in ``unit``, ``kept`` when the database had taken it."""

    tool: str
    serial: str
    reference: str
    phase: str
    direction: str
    target: str
    reading: str
    unit: str
    taken: datetime
    struck: str
    kept: bool


def save(path: Path, lines: Sequence[ReadingLine]) -> None:
    """Write ``lines`` under a header, in the order given. Raises FileNotWritten."""
    made = io.StringIO(newline="")
    writer = csv.writer(made)
    writer.writerow(f.name for f in fields(ReadingLine))
    said = {True: "yes", False: "no"}
    for line in lines:
        writer.writerow(said.get(v, v) if isinstance(v, bool) else str(v) for v in astuple(line))
    write_whole(path, made.getvalue().encode())
