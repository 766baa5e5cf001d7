"""How large the sheets are that are printed here. Light: what makes papers asks it long before one is looked at."""

from __future__ import annotations

from PyQt6.QtCore import QLocale

from reckoner.formats.papers.pdf import A4_MM, LETTER_MM


def paper_mm() -> tuple[float, float]:
    """Letter where the desktop measures so, else A4."""
    system = QLocale.system().measurementSystem()
    return LETTER_MM if system is QLocale.MeasurementSystem.ImperialUSSystem else A4_MM
