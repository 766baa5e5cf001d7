"""Walks the places of the window, or a run on its bench, in the language that nobody speaks, and prints what it says in
English and what is cut off: a program of its own, for a language is installed before anything else is loaded."""

# ruff: noqa: E402
import os

from reckoner.formats.catalogues import install_language

install_language()

import json
import re
import runpy
import sqlite3
import sys
import tempfile
from pathlib import Path

from PyQt6.QtCore import QAbstractTableModel, Qt
from PyQt6.QtGui import QPainter
from PyQt6.QtWidgets import QAbstractButton, QAbstractItemView, QLabel, QLineEdit, QWidget

from reckoner.__main__ import Meters
from reckoner.core.quantities.units import UNITS
from reckoner.formats.rulesets import SHIPPED, shipped
from reckoner.ui.layout import Scrolling
from reckoner.ui.places import PlaceId
from reckoner.ui.register.shelf import Shelf
from reckoner.ui.widgets.chips import Chips
from reckoner.ui.widgets.text import ElidedLabel

SCREENSHOTS = Path(__file__).parents[2] / "tools" / "screenshots.py"
PATIENCE_S = 600
"""As long as a hang would be: nothing here waits to see how quick a machine is."""
NAMES = {
    "iso",
    "english",
    "deutsch",
    "ctrl",
    "shift",
    "alt",
    "enter",
    "return",
    "esc",
    "backspace",
    "space",
    "tab",
    "del",
    "home",
    "end",
}


def kept(folder: Path) -> list[str]:
    """What people typed and the program kept: each text of the database."""
    database = sqlite3.connect(folder / "reckoner.sqlite")
    found: set[str] = set()
    for (table,) in database.execute("SELECT name FROM sqlite_master WHERE type = 'table'").fetchall():
        for row in database.execute(f'SELECT * FROM "{table}"'):
            for value in row:
                if isinstance(value, str):
                    found.update(_strings(value))
    database.close()
    return [text for text in found if latin(text)]


def _strings(value: str) -> set[str]:
    if value[:1] not in "{[":
        return {part.strip() for part in (value, *value.splitlines(), *value.split(", "))}
    try:
        document = json.loads(value)
    except ValueError:
        return {value}
    found, left = set(), [document]
    while left:
        match left.pop():
            case dict(made):
                left += [*made, *made.values()]
            case list(made):
                left += made
            case str(text):
                found.update((text, *text.split(", ")))
    return found


def latin(text: str) -> list[str]:
    return re.findall("[A-Za-z]{3,}", text)


def texts(root: QWidget) -> list[tuple[str, str]]:
    """Everything that can be read on what is shown, with what shows it."""
    found = []
    for widget in (root, *root.findChildren(QWidget)):
        if not widget.isVisible():
            continue
        where = f"{type(widget).__name__} {widget.objectName()}".strip()
        said = [widget.toolTip(), widget.accessibleName(), widget.accessibleDescription()]
        match widget:
            case ElidedLabel():
                pass  # what it shows is a part of its name
            case QLabel() | QAbstractButton():
                said.append(widget.text())
            case QLineEdit():
                said.append(widget.placeholderText())
            case QAbstractItemView() if widget.model() is not None:
                model = widget.model()
                columns = model.columnCount() if isinstance(model, QAbstractTableModel) else 1
                for row in range(min(model.rowCount(), 30)):
                    said += [str(model.index(row, c).data() or "") for c in range(columns)]
                said += [str(model.headerData(c, Qt.Orientation.Horizontal) or "") for c in range(columns)]
            case _:
                pass
        found += [(where, re.sub("<[^>]*>", " ", text)) for text in said if text]
    return found


painted: dict[str, None] = {}


def _watching(draw):
    def watched(self, *args):
        painted.update((a, None) for a in args if isinstance(a, str))
        return draw(self, *args)

    return watched


def cut_off(root: QWidget) -> list[str]:
    """Labels and buttons that show less than they say."""
    found = []
    for widget in root.findChildren(QWidget):
        if not widget.isVisible() or widget.visibleRegion().isEmpty():
            continue
        if isinstance(widget, QLabel) and widget.text():
            if widget.wordWrap():
                cut = widget.heightForWidth(widget.width()) > widget.height() + 1
            else:
                cut = widget.sizeHint().width() > widget.width() + 1
        elif isinstance(widget, QAbstractButton) and widget.text():
            cut = widget.minimumSizeHint().width() > widget.width() + 1
        elif isinstance(widget, Scrolling):
            room, holder = widget.viewport().width(), widget.widget()
            found += [
                f"{type(one).__name__}: {getattr(one, 'text', str)()} is wider than {room} px"
                for one in holder.findChildren(QWidget)
                if one.isVisible() and one.minimumSizeHint().width() > room
            ]
            cut = False
        else:
            cut = False
        if cut:
            found.append(f"{type(widget).__name__}: {getattr(widget, 'text', str)()}")
    return found


def main(part: str) -> None:
    QPainter.drawText = _watching(QPainter.drawText)
    shots = runpy.run_path(str(SCREENSHOTS), run_name="shots")
    english: dict[str, str] = {}
    cut: dict[str, str] = {}
    pages: list[str] = []
    units = {word.casefold() for unit in UNITS for word in re.findall("[A-Za-z]{3,}", unit.symbol)}
    stored: list[str] = []
    titles = ["a shop of one's own", *(shipped(name).title for name in SHIPPED)]

    def know(texts: list[str]) -> None:
        stored[:] = sorted(set(texts), key=len, reverse=True)

    class Reader(shots["Photographer"]):
        def grab(self, name: str) -> None:
            shots["settle"](self.window)
            pages.append(name)
            painted.clear()
            self.window.frame.grab()
            said = texts(self.window.frame) + [("painted", text) for text in painted if not text.endswith("…")]
            for where, text in said:
                left = re.sub("[0-9a-f]{4} [0-9a-f]{4} [0-9a-f]{4} [0-9a-f]{4}", "", text) if latin(text) else ""
                for value in stored if left else ():
                    if value in left:
                        left = left.replace(value, " ")
                words = {word for word in latin(left) if word.casefold() not in NAMES | units}
                if words:
                    english.setdefault(text, f"{name}: {where}: {sorted(words)}")
            for words in cut_off(self.window.frame):
                cut.setdefault(words, name)
            if out := os.environ.get("PICTURES"):
                self.window.frame.grab().save(f"{out}/{name}.png")

        def adders(self, name: str) -> None:
            """What asks for another row of what is in front."""
            shelves = [shelf for shelf in self.window.current.findChildren(Shelf) if shelf.isVisible()]
            for shelf in shelves:
                shelf.begin_adding()
                self.grab(f"{name}, another")
            if not shelves and self.window.current is self.window.place(PlaceId.TOOLS):
                self.window.current.add_button.click()
                self.grab(f"{name}, another")

        def walk(self) -> None:
            if part == "places":
                self.pages()
            else:
                super().walk()

        def pages(self) -> None:
            """Every page of every place, and what adds a row there."""
            for place in PlaceId:
                self.window.go(shots["Target"](place))
                shots["wait"](lambda: self.window.idle, 60)
                self.grab(place.value)
                heads = next((c for c in self.window.current.findChildren(Chips) if c.isVisible()), None)
                for key, chip in list(heads.chips.items()) if heads is not None else ():
                    chip.click()
                    self.grab(f"{place.value} {key}")
                    self.adders(f"{place.value} {key}")
                if heads is not None:
                    next(iter(heads.chips.values())).click()

    with tempfile.TemporaryDirectory() as folder:
        wait = shots["wait"]
        shots["main"].__globals__["wait"] = lambda until, _seconds=0: wait(until, PATIENCE_S)
        shots["main"].__globals__.update(Photographer=Reader, Meters=lambda **_: Meters(speed=20, rate=500))
        put = shots["make_window"]

        def opened(opening, theme):
            window = put(opening, theme)
            window.around.work.opened.connect(lambda *_: know([*kept(opening.folder), *titles]))
            return window

        def opening(theme, _out, size):
            if part == "places":
                first(theme, Path(folder), size, lambda window, name: Reader(window, Path(folder), set()).grab(name))

        first = shots["first"]
        shots["main"].__globals__.update(make_window=opened, first=opening)
        sys.argv = ["shots", "--out", folder]
        shots["main"]()
    print()
    json.dump({"english": english, "cut": cut, "pages": len(pages)}, sys.stdout, ensure_ascii=False)


if __name__ == "__main__":
    main(sys.argv[1])
