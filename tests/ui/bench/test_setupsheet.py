"""The set-up sheet: printed, read back, and what was noted on it entered at the bench."""

import pytest
from pypdf import PdfReader
from PyQt6.QtCore import Qt

from reckoner.core.errors import InputRefused
from reckoner.shop.papers.setupsheets import run_code, setup_sheet
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.completing import MeasuredTool, keep_measured
from reckoner.shop.runs import opening
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.noted import NotedTry, keep_noted, read_noted
from reckoner.shop.runs.records import Step
from reckoner.store.reader import reader_of
from reckoner.store.terms import ObservationKind
from tests.support.hands import ENTER, WAIT, click, go, press, settle, type_in
from tests.support.pounds import IN, LB
from tests.support.runs import tool_id
from tests.ui.bench.test_simplesum import begin, typed_at_the_top


@pytest.fixture
def hung(qtbot, open_window, pounds, act):
    """35 lb at 18 in on T-1, set up: the window, its bench and the database."""
    folder, database = pounds
    with database.session() as session:
        keep_measured(session, 1, MeasuredTool(own_mass=3 * LB, own_centre=8 * IN), act)
    window = open_window(folder)
    typed_at_the_top(qtbot, window, "35 lb at 18 in with T-1")
    bench = begin(qtbot, window)
    press(window, ENTER)
    qtbot.waitUntil(lambda: bench.run.reference is not None, timeout=WAIT)
    settle(qtbot, window)
    return window, bench, database


def test_a_sheet_is_printed_scanned_and_what_was_noted_on_it_entered(qtbot, hung, tmp_path):
    window, bench, database = hung
    links = bench.left.sheet
    assert links.print_button.isVisible()
    links.save(tmp_path / "sheet.pdf")
    qtbot.waitUntil((tmp_path / "sheet.pdf").exists, timeout=WAIT)
    (page,) = PdfReader(tmp_path / "sheet.pdf").pages
    said = " ".join(page.extract_text().replace("\u202f", " ").split())
    for words in (
        "Set-up sheet", "T-1, run 1", "the drive in a vice", "18 in from the drive's centre", "P-25 + P-10 at 18 in makes",
        "Set to", "It clicked (c)", "Halve between the two", "feet and head out of", "RUN 1 T-1",
        "3 releases at 150 lbf·ft, with nothing hung",
    ):  # fmt: skip
        assert words in said, words
    assert "mm" not in said
    assert "kg" not in said
    for key in (ENTER, ENTER):
        press(window, key)
        settle(qtbot, window)
    qtbot.waitUntil(lambda: bench.run.step is Step.AS_FOUND, timeout=WAIT)
    go(window, "today")
    settle(qtbot, window)
    press(window, Qt.Key.Key_J)
    type_in(window, "run 1 t-1")
    matches = window.top_line.matches
    qtbot.waitUntil(lambda: matches.count() == 1 and "Go on with run 1 of T-1" in matches.item(0).text(), timeout=WAIT)
    press(window, ENTER)
    qtbot.waitUntil(lambda: window.current is bench and bench.run is not None, timeout=WAIT)
    settle(qtbot, window)
    panel = bench.panels.tripping
    click(panel._note)
    type_in(window, "53 c, 5x s")
    press(window, ENTER)
    qtbot.waitUntil(lambda: panel.noted.hint.text().startswith("“5x”:"), timeout=WAIT)
    assert not bench.run.found[0].observations
    panel.noted.clear()
    type_in(window, "53 c, 56 s, 54 c")
    assert panel.noted.hint.text() == "understood: 2 clicked, 1 silent"
    press(window, ENTER)
    qtbot.waitUntil(lambda: len(bench.run.found[0].counted) == 3, timeout=WAIT)
    settle(qtbot, window)
    assert panel.noted.isHidden()
    click(panel._note)
    type_in(window, "55 s, 54 c, 55 s, 54 c, 55 s, 57 s")
    press(window, ENTER)
    qtbot.waitUntil(lambda: "Nothing was kept" in panel.noted.hint.text(), timeout=WAIT)
    with database.session() as session:
        assert len(load(session, bench.run.id).found[0].counted) == 3


def test_lines_that_are_no_tries_are_refused_and_other_ways_say_what_was_varied(demo, act):
    assert read_noted("410 mm c; 405 mm silent") == (
        NotedTry("410 mm", ObservationKind.CLICKED),
        NotedTry("405 mm", ObservationKind.SILENT),
    )
    for line, said in (("48", "48"), ("48 c 52", "52"), ("", "such as"), ("1 c " * 61, "more than 60")):
        with pytest.raises(InputRefused, match=said):
            read_noted(line)
    with demo.session() as session:
        run = opening.open_run(session, tool_id(demo, "HC-0417"), act)
        with pytest.raises(ShopRefused, match="No tries are wanted here"):
            keep_noted(session, run.id, read_noted("48 c"), act)
        with pytest.raises(ShopRefused, match="weights or a gauge first"):
            setup_sheet(reader_of(session), run)
        assert run_code(run) == f"RUN {run.id} HC-0417"
