"""The look: fonts, type sizes and shape codes, and the style sheet made of the colours in ``tokens``.

Nothing else in the window names a colour, a font or a style sheet.
"""

from __future__ import annotations

from enum import Enum
from functools import cache
from pathlib import Path

from PyQt6 import sip
from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QBrush, QColor, QFont, QFontDatabase, QPainter, QPalette, QPen, QPixmap
from PyQt6.QtWidgets import QApplication, QWidget

from reckoner.core.decision.states import State
from reckoner.ui.tokens import DARK, GRID, LIGHT, Tokens

FAMILY = "Atkinson Hyperlegible Next"
FONTS = Path(__file__).parent / "fonts"


class Type(Enum):
    """Type roles: pixel size and weight."""

    CAPTION = (13, 400)
    BODY = (15, 400)
    STRONG = (15, 600)
    LEAD = (17, 600)
    TITLE = (20, 600)
    HEADLINE = (26, 700)
    FIGURE = (18, 400)
    FIGURE_STRONG = (18, 600)
    UNIT = (28, 400)
    READING = (96, 700)


STATE_SHAPES = {
    State.INSIDE: "disc",
    State.INSIDE_NEAR: "half",
    State.OUTSIDE_NEAR: "ring",
    State.OUTSIDE: "cross",
    State.UNDECIDED: "bar",
    State.COMPARED: "tick",
}
"""The fence mark's second code beside the dot's place: its shape, legible without colour."""


class Theme(QObject):
    """The look in force. Widgets are given it, ask it for colours and fonts, and repaint on ``changed``."""

    changed = pyqtSignal()

    def __init__(self, application: QApplication, *, dark: bool = False) -> None:
        super().__init__(application)
        self._application = application
        self.tokens = DARK if dark else LIGHT
        self._dressed: list[QWidget] = []
        application.setFont(self.font(Type.BODY))
        self._apply()

    @property
    def dark(self) -> bool:
        return self.tokens is DARK

    def set_dark(self, dark: bool) -> None:
        self.tokens = DARK if dark else LIGHT
        self._apply()
        self.changed.emit()

    def color(self, name: str) -> QColor:
        return QColor(getattr(self.tokens, name))

    def state_color(self, state: State | None) -> QColor:
        return self.color(
            {
                None: "quiet",
                State.INSIDE: "inside",
                State.INSIDE_NEAR: "near",
                State.OUTSIDE_NEAR: "outside",
                State.OUTSIDE: "outside",
                State.UNDECIDED: "quiet",
                State.COMPARED: "accent",
            }[state]
        )

    def font(self, role: Type, scale: float = 1.0) -> QFont:
        size, weight = role.value
        _load_font(weight)
        font = QFont(FAMILY)
        font.setPixelSize(max(8, round(size * scale)))
        font.setWeight(QFont.Weight(weight))
        font.setFeature(QFont.Tag(b"tnum"), 1)
        return font

    def pen(self, name: str, width: float = 1.0) -> QPen:
        pen = QPen(self.color(name), width)
        pen.setCapStyle(Qt.PenCapStyle.FlatCap)
        return pen

    def hatch(self, wash: str = "near_wash", stripe: str = "near_hatch") -> QBrush:
        """Slanted stripes: the near zone, and held tags. Drawn, so that it survives grey print."""
        tile = QPixmap(GRID, GRID)
        tile.fill(self.color(wash))
        painter = QPainter(tile)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.color(stripe), 2))
        for offset in (-GRID, 0, GRID):
            painter.drawLine(offset, GRID, offset + GRID, 0)
        painter.end()
        return QBrush(tile)

    def _apply(self) -> None:
        palette = QPalette()
        for role, name in (
            (QPalette.ColorRole.Window, "ground"),
            (QPalette.ColorRole.Base, "surface"),
            (QPalette.ColorRole.AlternateBase, "ground"),
            (QPalette.ColorRole.Text, "ink"),
            (QPalette.ColorRole.WindowText, "ink"),
            (QPalette.ColorRole.ButtonText, "ink"),
            (QPalette.ColorRole.Button, "surface"),
            (QPalette.ColorRole.Highlight, "accent"),
            (QPalette.ColorRole.HighlightedText, "on_accent"),
            (QPalette.ColorRole.PlaceholderText, "quiet"),
            (QPalette.ColorRole.ToolTipBase, "ink"),
            (QPalette.ColorRole.ToolTipText, "surface"),
        ):
            palette.setColor(role, self.color(name))
        self._application.setPalette(palette)
        self._sheet = _style_sheet(self.tokens)
        self._dressed = [window for window in self._dressed if not sip.isdeleted(window)]
        for window in self._dressed:
            window.setStyleSheet(self._sheet)

    def dress(self, window: QWidget) -> None:
        """``window`` and what it holds follow the style sheet from now on.

        The sheet hangs on the window and not on the application: what is made outside of it is dressed once, when it is put
        in, and not again by each part that takes it in (Qt polishes anew whatever is given another parent).
        """
        self._dressed.append(window)
        window.setStyleSheet(self._sheet)


@cache
def _load_font(weight: int) -> None:
    """Make one weight of the typeface known, when it is first asked for."""
    name = {400: "400Regular", 600: "600SemiBold", 700: "700Bold"}[weight]
    QFontDatabase.addApplicationFont(str(FONTS / f"AtkinsonHyperlegibleNext_{name}.ttf"))


def _style_sheet(t: Tokens) -> str:
    """The one style sheet. Widgets opt in by their ``class`` property."""
    return f"""
    QWidget {{ color: {t.ink}; }}
    QLabel {{ background: transparent; }}
    QToolTip {{ background: {t.ink}; color: {t.surface}; border: none; padding: 8px; }}
    *[class="frame"] {{ background: {t.frame}; }}
    *[class="ground"] {{ background: {t.ground}; }}
    *[class="surface"] {{ background: {t.surface}; border-radius: 6px; }}
    *[class="notice"] {{ background: {t.near_wash}; border-radius: 6px; }}
    QLabel[class="quiet"] {{ color: {t.quiet}; }}
    QLabel[class="frame-quiet"] {{ color: {t.frame_quiet}; }}
    QLabel[class="fault"] {{ color: {t.outside}; }}
    QLabel[class="good"] {{ color: {t.inside}; }}
    QLineEdit {{
        background: {t.surface}; border: 2px solid {t.line}; border-radius: 6px;
        padding: 0 12px; min-height: 36px; selection-background-color: {t.accent}; selection-color: {t.on_accent};
    }}
    QPlainTextEdit {{ background: {t.surface}; border: 2px solid {t.line}; border-radius: 6px; padding: 4px 8px;
        selection-background-color: {t.accent}; selection-color: {t.on_accent}; }}
    QPlainTextEdit:focus {{ border: 2px solid {t.accent}; }}
    QLineEdit:focus {{ border: 2px solid {t.accent}; }}
    QLineEdit[class="refused"] {{ border: 2px solid {t.outside}; }}
    QPushButton {{
        background: transparent; color: {t.accent}; border: 2px solid {t.line}; border-radius: 6px;
        padding: 0 16px; min-height: 36px;
    }}
    QPushButton {{ outline: none; }}
    QPushButton:hover {{ background: {t.accent_wash}; }}
    QPushButton:focus {{ border: 2px solid {t.focus}; }}
    QPushButton:disabled {{ color: {t.quiet}; }}
    QPushButton[class="primary"] {{
        background: {t.accent}; color: {t.on_accent}; border: 2px solid {t.accent}; min-height: 52px;
    }}
    QPushButton[class="primary"]:hover {{ border: 2px solid {t.ink}; }}
    QPushButton[class="primary"]:focus {{ border: 2px solid {t.ink}; }}
    QPushButton[class="primary"]:pressed {{ background: {t.ink}; color: {t.surface}; }}
    QPushButton[class="primary"]:disabled {{ background: {t.line}; border-color: {t.line}; color: {t.quiet}; }}
    QPushButton[class="chosen"] {{
        background: {t.accent_wash}; color: {t.ink}; border: 2px solid {t.accent}; padding: 0 8px; min-height: 28px;
    }}
    QPushButton[class="chip"] {{ padding: 0 8px; min-height: 28px; }}
    QPushButton[class="chip"]:focus, QPushButton[class="chosen"]:focus {{ border: 3px double {t.focus}; padding: 0 7px;
        min-height: 26px; }}
    QPushButton[class="head"] {{ border: 2px solid transparent; background: transparent; padding: 0 6px; min-height: 28px;
        text-align: left; color: {t.quiet}; }}
    QPushButton[class="head"][right="true"] {{ text-align: right; }}
    QPushButton[class="head"]:hover {{ color: {t.accent}; }}
    QPushButton[class="head"]:focus {{ border: 2px solid {t.focus}; }}
    QPushButton[class="link"] {{ border: 2px solid transparent; padding: 0 8px; min-height: 28px; }}
    QPushButton[class="link"]:focus {{ border: 2px solid {t.focus}; }}
    QPushButton[class="pill"] {{
        background: {t.surface}; color: {t.ink}; border: 2px solid {t.surface}; border-radius: 18px; padding: 0 16px;
        min-height: 32px;
    }}
    QPushButton[class="pill"]:focus {{ border: 2px solid {t.focus}; }}
    QPushButton[class="field"] {{ border: none; padding: 0; min-height: 32px; }}
    *[class="drawer"] {{ background: {t.surface}; border-left: 4px solid {t.frame}; }}
    *[class="pad"] {{ background: {t.surface}; border: 2px solid {t.accent}; border-radius: 6px; }}
    *[class="editing"] {{ background: {t.ground}; border-radius: 6px; }}
    QCheckBox {{ spacing: 8px; }}
    QCheckBox::indicator {{ width: 20px; height: 20px; border: 2px solid {t.quiet}; border-radius: 4px;
        background: {t.surface}; }}
    QCheckBox::indicator:checked {{ background: {t.accent}; border-color: {t.accent}; }}
    QCheckBox:focus {{ color: {t.accent}; }}
    QListWidget[class="matches"] {{ background: {t.surface}; border: 2px solid {t.accent}; border-radius: 6px;
        padding: 4px; }}
    QListWidget[class="matches"]::item {{ padding: 6px 8px; border-radius: 4px; }}
    QListWidget[class="matches"]::item:selected {{ background: {t.accent}; color: {t.on_accent}; }}
    QListWidget[class="matches"]::item:hover {{ background: {t.accent_wash}; color: {t.ink}; }}
    QListView, QTableView {{ background: transparent; border: none; outline: none; }}
    QTableView {{ selection-background-color: transparent; }}
    QHeaderView {{ background: transparent; border: none; }}
    QHeaderView::section {{ background: {t.ground}; color: {t.ink}; border: none; border-right: 2px solid {t.surface};
        padding: 4px 8px; }}
    QTableCornerButton::section {{ background: {t.ground}; border: none; }}
    QHeaderView::section:hover {{ background: {t.accent_wash}; }}
    QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.line}; border-radius: 4px; min-width: 40px; }}
    QScrollArea {{ background: transparent; border: none; }}
    QScrollArea > QWidget > QWidget {{ background: transparent; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.line}; border-radius: 4px; min-height: 40px; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
        background: transparent; height: 0; border: none;
    }}
    QMenu {{ background: {t.surface}; border: 1px solid {t.line}; padding: 8px; }}
    QMenu::item {{ padding: 8px 24px 8px 16px; border-radius: 4px; }}
    QMenu::item:selected {{ background: {t.accent}; color: {t.on_accent}; }}
    """
