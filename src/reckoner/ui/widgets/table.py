"""A bare table: rows of one height, no headers, no grid; what it shows is painted by its delegate."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QAbstractItemView, QHeaderView, QTableView

from reckoner.ui.theme import Theme


class BareTable(QTableView):
    """A table rather than a list, for a list view lays out a hundred thousand rows to show eight. ``stretch`` gives its one
    column all the room; else each is ``wide``."""

    def __init__(self, theme: Theme, *, high: int, wide: int, stretch: bool = False) -> None:
        super().__init__()
        fixed, stretched = QHeaderView.ResizeMode.Fixed, QHeaderView.ResizeMode.Stretch
        for header, size, mode in (
            (self.verticalHeader(), high, fixed),
            (self.horizontalHeader(), wide, stretched if stretch else fixed),
        ):
            if header is not None:
                header.hide()
                header.setMinimumSectionSize(1)
                header.setDefaultSectionSize(size)
                header.setSectionResizeMode(mode)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        theme.changed.connect(self.repaint_all)

    def repaint_all(self) -> None:
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()
