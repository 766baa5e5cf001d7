"""What is printed has its true size, whatever sheet the printer has."""

import io

import pytest
from PyQt6.QtCore import QMarginsF, QSize
from PyQt6.QtGui import QImage, QPageLayout, QPageSize, QPainter
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrinter
from reportlab.pdfgen.canvas import Canvas

from reckoner.ui.widgets.paper import Paper

MM = 72 / 25.4


def framed(wide, high):
    """A page of so many mm, black to its edges."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(wide * MM, high * MM))
    canvas.rect(0, 0, wide * MM, high * MM, stroke=0, fill=1)
    canvas.save()
    return out.getvalue()


def inked(path):
    """How wide and how high the black is on the page at ``path``, mm."""
    document = QPdfDocument(None)
    document.load(str(path))
    size = document.pagePointSize(0)
    dots = QSize(round(size.width()), round(size.height()))
    page = QImage(dots, QImage.Format.Format_Grayscale8)
    page.fill(255)
    painter = QPainter(page)
    painter.drawImage(0, 0, document.render(0, dots))
    painter.end()
    black = [
        (x, y) for x in range(page.width()) for y in range(page.height()) if page.pixelColor(x, y).lightness() < 128
    ]
    across, down = zip(*black, strict=True)
    return (max(across) - min(across) + 1) / MM, (max(down) - min(down) + 1) / MM


@pytest.mark.parametrize(
    ("page", "printed"),
    [((90, 24), (90, 24)), ((210, 297), (190, 268.7)), ((420, 100), (190, 45.2))],
    ids=["a strip", "a sheet as large as the printer's", "a page that is wider"],
)
def test_a_page_is_printed_in_its_true_size_or_as_large_as_the_sheet(qtbot, theme, tmp_path, page, printed):
    printer = QPrinter()
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    printer.setPageLayout(
        QPageLayout(
            QPageSize(QPageSize.PageSizeId.A4),
            QPageLayout.Orientation.Portrait,
            QMarginsF(10, 10, 10, 10),
            QPageLayout.Unit.Millimeter,
        )
    )
    paper = Paper(theme)
    qtbot.addWidget(paper)
    paper.show_document(framed(*page))
    paper.print_to(printer)
    assert inked(tmp_path / "printed.pdf") == pytest.approx(printed, abs=1.0)
