"""However many lines there are, the widgets that show them do not grow with them."""

from dataclasses import replace
from datetime import date

import pytest
from PyQt6.QtWidgets import QWidget

from reckoner.shop.references.register import reference_sheet
from reckoner.shop.register.attachments import AttachmentLine
from reckoner.store.schema import Reference
from reckoner.ui.references.sheet import ReferenceSheetView
from reckoner.ui.register.files import Files
from reckoner.ui.widgets.showmore import STEP
from tests.support.hands import WAIT, click, settle

MANY = 2000
TODAY = date(2026, 11, 24)


def widgets(widget):
    """Those that somebody sees or that wait to be seen."""
    return sum(not one.isHidden() for one in widget.findChildren(QWidget))


def certificates(view, window, demo, count):
    with demo.session() as session:
        found = reference_sheet(session, session.query(Reference).filter_by(number="PM-5").one().id, TODAY)
    one = found.certificates[0]
    view._shown = found.facts.id
    view._show_sheet(replace(found, certificates=(one,) * count))
    return view.older


def checks(view, window, demo, count):
    with demo.session() as session:
        references = [reference_sheet(session, one.id, TODAY) for one in session.query(Reference)]
    found = max(references, key=lambda one: len(one.checks))
    view._shown = found.facts.id
    view._show_sheet(replace(found, checks=(found.checks[0],) * count))


def files(view, window, demo, count):
    view._show_files((AttachmentLine(1, "photo.jpg", 1000, TODAY),) * count)
    return view.others


@pytest.mark.parametrize(
    ("make", "show"),
    [(ReferenceSheetView, certificates), (ReferenceSheetView, checks), (Files, files)],
    ids=["certificates", "checks", "files"],
)
def test_lines_without_end_are_shown_a_part_at_a_time(qtbot, open_window, demo_folder, demo, make, show):
    window = open_window(demo_folder)
    view = make(window.around)
    qtbot.addWidget(view)
    view.show()
    counts = []
    for count in (2 * STEP, MANY):
        more = show(view, window, demo, count)
        settle(qtbot, window)
        qtbot.wait(1)  # what was let go is gone
        counts.append(widgets(view))
    assert counts[0] == counts[1]
    if more is not None:
        click(more.button)
        qtbot.waitUntil(lambda: widgets(view) > counts[1], timeout=WAIT)
