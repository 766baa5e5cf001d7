"""Spreadsheets as people save them: any divider, any encoding, XLSX with days and formulas; what is none is refused."""

import zipfile
from datetime import date, datetime

import pytest
from openpyxl import Workbook

from reckoner.core.quantities.units import N_M
from reckoner.formats import files, tables
from reckoner.formats.points import parse_points
from reckoner.formats.tables import FORMULA, TableRefused, read_as_text, read_table, write_table, written_csv

WANTED = (("Nr.", "Größe", "Ort"), ((2, ("1", "5,5", "Halle; süd")), (4, ("2", "", "“hier”"))))


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "cp1252"])
@pytest.mark.parametrize("divider", [";", ",", "\t", "|"])
def test_a_csv_is_read_whatever_divides_it_and_however_it_is_encoded(tmp_path, encoding, divider):
    file = tmp_path / "tools.csv"
    rows = [["Nr.", "Größe", "Ort"], ["1", '"5,5"', '"Halle; süd"'], [], ["2", "", "“hier”"]]
    file.write_bytes("\r\n".join(divider.join(row) for row in rows).encode(encoding))
    found = read_table(file)
    assert (found.columns, found.rows) == WANTED


def test_an_xlsx_gives_days_whole_numbers_and_what_formulas_gave(tmp_path):
    book = Workbook()
    sheet = book.active
    sheet.append(["Tools of the shop"])
    sheet.append(["No.", "Max", "Due", "Sum"])
    sheet.append([417.0, 12.5, datetime(2026, 3, 9), "=B3*2"])
    sheet.append(["0418", 0.1 + 0.2, date(2026, 3, 10), True])
    book.save(tmp_path / "tools.xlsx")
    found = read_table(tmp_path / "tools.xlsx")
    assert found.columns == ("No.", "Max", "Due", "Sum")
    assert found.rows == ((3, ("417", "12.5", "2026-03-09", FORMULA)), (4, ("0418", "0.3", "2026-03-10", "yes")))


def test_the_points_of_a_certificate_are_read_from_a_workbook_shares_as_the_sheet_shows_them(tmp_path):
    """0.006 shown as 0.6 % is 0.6 %, and 0.6 under "W [%]" is too."""
    book = Workbook()
    book.active.append(["Torque [N·m]", "Error [N·m]", "W"])
    for torque, error in ((40.0, 0.04), (200.0, -0.2)):
        book.active.append([torque, error, 0.006])
        book.active.cell(book.active.max_row, 3).number_format = "0.0%"
    book.save(tmp_path / "points.xlsx")
    (tmp_path / "points.txt").write_text("40 0,1 0,6\n200 -0.1 0.6\n")
    for name in ("points.xlsx", "points.txt"):
        found = parse_points(read_as_text(tmp_path / name), N_M)
        assert [(p.torque, p.fault) for p in found] == [(40.0, ""), (200.0, "")]
        assert [p.error for p in found] == pytest.approx([0.001, -0.001])
        assert [p.uncertainty for p in found] == pytest.approx([0.006, 0.006])


def test_what_is_no_spreadsheet_is_refused_in_words(tmp_path, monkeypatch):
    def refused(name, data, why):
        (tmp_path / name).write_bytes(data)
        with pytest.raises(TableRefused, match=why):
            read_table(tmp_path / name)

    refused("empty.csv", b"", "names no columns")
    refused("one.csv", b"only\n1\n2\n", "names no columns")
    refused("binary.csv", b"a;b\n\x00\x01;x\n" + b"ab;cd\n" * 60, "not a spreadsheet")
    refused("broken.xlsx", b"PK\x03\x04 and no more", "cannot be read as XLSX")
    with pytest.raises(TableRefused, match="cannot be read"):
        read_table(tmp_path / "gone.csv")
    with pytest.raises(TableRefused, match="not a file"):
        read_table(tmp_path)
    with (tmp_path / "huge.csv").open("wb") as file:
        file.truncate(50_000_000)
    with pytest.raises(TableRefused, match="larger than 20 MB"):
        read_table(tmp_path / "huge.csv")
    with zipfile.ZipFile(tmp_path / "bomb.xlsx", "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("xl/worksheets/sheet1.xml", b"0" * 201_000_000)
    with pytest.raises(TableRefused, match="far more than a register"):
        read_table(tmp_path / "bomb.xlsx")
    monkeypatch.setattr("reckoner.formats.tables.MOST_ROWS", 3)
    refused("long.csv", b"a;b\n" + b"1;2\n" * 4, "more than 3 rows")


def test_what_is_written_is_read_again_and_starts_no_formula(tmp_path):
    file = tmp_path / "out.csv"
    file.write_text(written_csv(["no", "note"], [["1", "=1+1"], ["2", "−5; ü"], ["3", "-4.2"], ["4", "@x"]]), "utf-8")
    assert [cells for _, cells in read_table(file).rows] == [
        ("1", "'=1+1"), ("2", "−5; ü"), ("3", "-4.2"), ("4", "'@x"),
    ]  # fmt: skip


def test_workbooks_hold_figures_as_figures_and_days_as_days_and_words_as_words(tmp_path):
    path = tmp_path / "out.xlsx"
    write_table(
        path, ("number", "deviation", "tested", "note"), [("0417", "-1.25", "2026-11-24", "12"), ("7", "", "x", "=1")]
    )
    from openpyxl import load_workbook

    first, second = list(load_workbook(path).active.values)[1:]
    assert first == ("0417", -1.25, datetime(2026, 11, 24), "12")
    assert second[:3] == ("7", None, "x") or second[:3] == ("7", "", "x")
    assert second[3] == "'=1"


def test_more_rows_than_a_sheet_holds_go_on_in_the_next_and_a_table_is_written_whole_or_not_at_all(
    tmp_path, monkeypatch
):
    from openpyxl import load_workbook

    monkeypatch.setattr(tables, "SHEET_ROWS", 2)
    path, rows = tmp_path / "out.xlsx", [(f"T-{i}", str(i)) for i in range(5)]
    assert write_table(path, ("tool", "place"), rows) == 5
    book = load_workbook(path)
    assert book.sheetnames == ["Rows 1 to 2", "Rows 3 to 4", "Rows 5 to 5"]
    assert [row for name in book.sheetnames for row in list(book[name].values)[1:]] == [(f"T-{i}", i) for i in range(5)]
    assert {next(iter(book[name].values)) for name in book.sheetnames} == {("tool", "place")}
    before = path.read_bytes()
    monkeypatch.setattr(files.Path, "replace", lambda *_: (_ for _ in ()).throw(OSError(28, "No space left on device")))
    with pytest.raises(TableRefused, match="No space left"):
        write_table(path, ("tool", "place"), rows)
    assert (path.read_bytes(), list(tmp_path.iterdir())) == (before, [path])


@pytest.mark.parametrize(("encoding", "words"), [("cp1252", "Prüfmittel für Größe"), ("cp850", "Prüfmittel für Größe")])
def test_old_code_pages_are_told_apart(tmp_path, encoding, words):
    path = tmp_path / "old.csv"
    lines = ["Nummer;Bezeichnung", *(f"W-{i};{words} und Schlüssel mit Zähler, geändert" for i in range(30))]
    path.write_bytes("\r\n".join(lines).encode(encoding))
    assert read_table(path).rows[0][1][1].startswith(words)


def test_an_open_document_is_read_as_the_others_are(tmp_path):
    path = tmp_path / "tools.ods"

    def row(*words):
        cell = '<table:table-cell office:value-type="string"><text:p>{}</text:p></table:table-cell>'
        return f"<table:table-row>{''.join(cell.format(word) for word in words)}</table:table-row>"

    cells = row("No", "Range") + row("W-1", "20-100")
    spaces = " ".join(f'xmlns:{n}="urn:oasis:names:tc:opendocument:xmlns:{n}:1.0"' for n in ("office", "table", "text"))
    content = (
        f'<office:document-content {spaces}><office:body><office:spreadsheet><table:table table:name="A">{cells}'
        "</table:table></office:spreadsheet></office:body></office:document-content>"
    )
    with zipfile.ZipFile(path, "w") as packed:
        packed.writestr("mimetype", "application/vnd.oasis.opendocument.spreadsheet")
        packed.writestr("content.xml", content)
        packed.writestr("META-INF/manifest.xml", "<manifest/>")
    found = read_table(path)
    assert (found.columns, found.rows[0][1]) == (("No", "Range"), ("W-1", "20-100"))
    (tmp_path / "bad.ods").write_bytes(path.read_bytes()[:200])
    with pytest.raises(TableRefused, match="cannot be read"):
        read_table(tmp_path / "bad.ods")


@pytest.mark.parametrize("cell", ["-2+3+cmd|' /C calc'!A0", "-A1", "-(1)", "=1", "+1", "@x", "\t=1", "\n=1", "-1;=2"])
def test_a_cell_that_could_be_a_formula_is_kept_as_words(cell):
    assert written_csv([cell], []).splitlines()[0].lstrip('\ufeff"').startswith("'")


@pytest.mark.parametrize("cell", ["-4.2", "-4,2", "-1.2\u202f%", "-0.5 N·m", "12", "a-b"])
def test_a_number_below_nothing_stays_a_number(cell):
    assert written_csv([cell], []).strip("\ufeff\r\n") == cell
