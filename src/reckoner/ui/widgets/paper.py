"""A document as it will be printed: its pages one under the other, as wide as there is room."""

from __future__ import annotations

from PyQt6.QtCore import QBuffer, QByteArray, QIODevice, QPointF, QRectF, QSize, QSizeF, Qt
from PyQt6.QtGui import QImage, QPainter, QPaintEvent, QResizeEvent
from PyQt6.QtPdf import QPdfDocument
from PyQt6.QtPrintSupport import QPrintDialog, QPrinter
from PyQt6.QtWidgets import QDialog, QSizePolicy, QWidget

from reckoner.core.translation import tr
from reckoner.ui.layout import Scrolling, column
from reckoner.ui.theme import Theme
from reckoner.ui.tokens import GRID

SHARP = 2.0
"""Pages are drawn this many times as fine as the screen: a figure stays legible."""

PRINTED_DPI = 300
POINTS_AN_INCH = 72.0

SHEET = 0xFFFFFF
"""A sheet of paper is white in every theme."""


class Paper(QWidget):
    """Shows what ``show_document`` was given; ``pages`` says how many there are."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._sheets = _Sheets(theme)
        self._area = Scrolling(self._sheets)
        self.setLayout(column(self._area))

    @property
    def pages(self) -> int:
        return self._sheets.document.pageCount()

    def show_document(self, data: bytes) -> None:
        """Another document (PDF); empty: none."""
        self._sheets.load(data)
        bar = self._area.verticalScrollBar()
        if bar is not None:
            bar.setValue(0)

    def print_to(self, printer: QPrinter) -> None:
        """Every page at its true size in the corner of the printer's sheet; one that is larger than the sheet fills it."""
        printer.setResolution(PRINTED_DPI)
        painter = QPainter(printer)
        for page in range(self.pages):
            if page:
                printer.newPage()
            sheet = QSizeF(painter.viewport().size())
            size = self._sheets.document.pagePointSize(page) * (PRINTED_DPI / POINTS_AN_INCH)
            if size.width() > sheet.width() or size.height() > sheet.height():
                size.scale(sheet, Qt.AspectRatioMode.KeepAspectRatio)
            painter.drawImage(QRectF(QPointF(0, 0), size), self._sheets.drawn(page, size.toSize()))
        painter.end()


def print_paper(paper: Paper) -> bool:
    """Print it by the desktop's own dialog; False where the person thought better."""
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    if QPrintDialog(printer, paper).exec() != QDialog.DialogCode.Accepted:
        return False
    paper.print_to(printer)
    return True


def print_bytes(theme: Theme, data: bytes) -> bool:
    """Print a document that is not shown, by the desktop's own dialog; False where the person thought better."""
    paper = Paper(theme)
    paper.show_document(data)
    return print_paper(paper)


class _Sheets(QWidget):
    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._data, self._buffer = QByteArray(), QBuffer()
        self.document = QPdfDocument(self)
        self._images: dict[tuple[int, int], QImage] = {}
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(tr("Preview"))

    def load(self, data: bytes) -> None:
        self.document.close()
        self._buffer.close()
        self._images.clear()
        self._data = QByteArray(data)
        self._buffer.setBuffer(self._data)
        self._buffer.open(QIODevice.OpenModeFlag.ReadOnly)
        if data:
            self.document.load(self._buffer)
        self._fit()

    def drawn(self, page: int, size: QSize) -> QImage:
        """A page on white."""
        image = QImage(size, QImage.Format.Format_RGB32)
        image.fill(SHEET)
        painter = QPainter(image)
        painter.drawImage(0, 0, self.document.render(page, size))
        painter.end()
        return image

    def _high(self, page: int) -> int:
        points = self.document.pagePointSize(page)
        return round(self.width() * points.height() / points.width()) if points.width() else 0

    def _fit(self) -> None:
        whole = sum(self._high(page) + 2 * GRID for page in range(self.document.pageCount()))
        self.setFixedHeight(max(whole, GRID))
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        if event is not None and event.size().width() != event.oldSize().width():
            self._images.clear()
            self._fit()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        top = 0
        for page in range(self.document.pageCount()):
            high = self._high(page)
            where = QRectF(0, top, self.width(), high)
            if event is None or where.toRect().intersects(event.rect()):
                key = (page, self.width())
                if key not in self._images:
                    self._images[key] = self.drawn(page, (where.size() * SHARP).toSize())
                painter.drawImage(where, self._images[key])
                painter.setPen(self._theme.pen("line", 1))
                painter.drawRect(where.adjusted(0, 0, -1, -1))
            top += high + 2 * GRID


A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)
