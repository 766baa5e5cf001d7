"""The tag: wherever a tool appears it is the same small drawn crib tag.

Number, kind, full scale, fence mark of its last result, time left. A held tool's tag has both corners cut, a
hatched body and a barred hole: a different shape, not only another colour.
"""

from __future__ import annotations

from datetime import date

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFont, QFontMetrics, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PyQt6.QtWidgets import QAbstractButton, QSizePolicy, QWidget

from reckoner.core.translation import tr
from reckoner.shop.register.cards import ToolCard
from reckoner.ui.theme import Theme, Type
from reckoner.ui.tokens import GRID
from reckoner.ui.widgets.mark import paint_mark
from reckoner.ui.widgets.text import tip

TAG_SIZE = QSize(32 * GRID, 10 * GRID)
CUT = 2 * GRID


def tag_outline(box: QRectF, *, held: bool, restricted: bool = False) -> QPainterPath:
    """The tag's shape: cut corners at the left; a held tag is cut at the right as well, a restricted one below only."""
    cuts = ((True, held), (True, held or restricted))
    path = QPainterPath()
    (tl, tr), (bl, br) = cuts
    path.moveTo(box.left() + (CUT if tl else 0), box.top())
    path.lineTo(box.right() - (CUT if tr else 0), box.top())
    path.lineTo(box.right(), box.top() + (CUT if tr else 0))
    path.lineTo(box.right(), box.bottom() - (CUT if br else 0))
    path.lineTo(box.right() - (CUT if br else 0), box.bottom())
    path.lineTo(box.left() + (CUT if bl else 0), box.bottom())
    path.lineTo(box.left(), box.bottom() - (CUT if bl else 0))
    path.lineTo(box.left(), box.top() + (CUT if tl else 0))
    path.closeSubpath()
    return path


def paint_tag(
    painter: QPainter,
    theme: Theme,
    box: QRectF,
    card: ToolCard,
    today: date,
    *,
    chosen: bool = False,
    focus: bool = False,
) -> None:
    """Draw the tag of ``card`` into ``box``."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    held = bool(card.held) or card.retired
    inner = box.adjusted(1.5, 1.5, -1.5, -1.5)
    outline = tag_outline(inner, held=held, restricted=card.restricted is not None)
    painter.fillPath(
        outline, theme.hatch("tag", "tag_held") if held else theme.color("accent_wash" if chosen else "tag")
    )
    painter.setPen(QPen(theme.color("accent" if focus or chosen else "ink"), 2.5 if focus or chosen else 1.5))
    painter.drawPath(outline)
    _hole(painter, theme, inner, held=held)
    if held:  # keep words off the stripes
        body = QPainterPath()
        body.addRoundedRect(inner.adjusted(3.5 * GRID, GRID, -2 * GRID, -GRID), 4, 4)
        painter.fillPath(body, theme.color("tag"))
    _words(painter, theme, inner, card, today)
    painter.restore()


def paint_blank(painter: QPainter, theme: Theme, box: QRectF) -> None:
    """The outline of a tag whose tool is still being read."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setPen(QPen(theme.color("line"), 1.5))
    painter.drawPath(tag_outline(box.adjusted(1.5, 1.5, -1.5, -1.5), held=False))
    painter.restore()


def _hole(painter: QPainter, theme: Theme, box: QRectF, *, held: bool) -> None:
    centre = QPointF(box.left() + 2 * GRID, box.center().y())
    painter.setPen(QPen(theme.color("ink"), 1.5))
    painter.setBrush(theme.color("ground"))
    painter.drawEllipse(centre, 5, 5)
    if held:
        painter.setPen(QPen(theme.color("outside"), 3))
        painter.drawLine(centre + QPointF(-8, 8), centre + QPointF(8, -8))


def _words(painter: QPainter, theme: Theme, box: QRectF, card: ToolCard, today: date) -> None:
    text = box.adjusted(4 * GRID, GRID, -2 * GRID, -GRID)
    line = text.height() / 3
    tool = card.tool
    mark = QRectF(text.right() - 42, text.top(), 42, line)
    paint_mark(painter, theme, mark.adjusted(0, 0, 0, 4), card.state)
    left, right = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight
    row = QRectF(text.left(), text.top(), text.width(), line)
    _write(painter, row.adjusted(0, 0, -40, 0), tool.number, theme.font(Type.LEAD), theme.color("ink"), left)
    _write(painter, row.translated(0, line), tool.description, theme.font(Type.CAPTION), theme.color("quiet"), left)
    due = card.due_words(today)
    tone = theme.color("outside" if card.stopped(today) else "ink")
    strong = theme.font(Type.STRONG, 0.9)
    wide = QFontMetrics(strong).horizontalAdvance(due)
    last = row.translated(0, 2 * line)
    _write(painter, last, due, strong, tone, right)
    part = card.restricted is not None
    where = last.adjusted(0, 0, -wide - GRID, 0)
    _write(painter, where, card.range_words, strong, theme.color("near" if part else "ink"), left)


def _write(painter: QPainter, box: QRectF, text: str, font: QFont, color: QColor, side: Qt.AlignmentFlag) -> None:
    painter.setFont(font)
    painter.setPen(color)
    shown = QFontMetrics(font).elidedText(text, Qt.TextElideMode.ElideRight, int(box.width()))
    painter.drawText(box, side | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextSingleLine, shown)


def tag_words(card: ToolCard, today: date) -> str:
    """The tag read aloud."""
    tool = card.tool
    state = card.state.words if card.state else tr("never tested")
    return f"{tool.number}, {tool.description}, {card.range_words}, {state}, {card.due_words(today)}"


class Tag(QAbstractButton):
    """A tag that can be pressed: goes where the tool is. ``clicked`` as a button."""

    def __init__(self, theme: Theme, card: ToolCard, today: date, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self._today = today
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Fixed)
        theme.changed.connect(self.update)
        self.show_card(card)

    def show_card(self, card: ToolCard) -> None:
        self.card = card
        self.setAccessibleName(tag_words(card, self._today))
        loan = tr("\nlent to {to}", to=card.loan.to) if card.loan else ""
        self.setToolTip(tip(f"{tag_words(card, self._today)}{loan}" + (f"\n{card.held}" if card.held else "")))
        self.update()

    def sizeHint(self) -> QSize:
        return TAG_SIZE

    def mouseDoubleClickEvent(self, event: QMouseEvent | None) -> None:
        self.mousePressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        paint_tag(
            painter, self._theme, QRectF(self.rect()), self.card, self._today,
            chosen=self.underMouse() and not self.card.held, focus=self.hasFocus(),
        )  # fmt: skip
