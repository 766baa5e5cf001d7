"""How large the sheets are that are printed here."""

from __future__ import annotations

from PyQt6.QtCore import QLocale

A4_MM, LETTER_MM = (210.0, 297.0), (215.9, 279.4)


def paper_mm() -> tuple[float, float]:
    """Letter where the desktop measures so, else A4."""
    system = QLocale.system().measurementSystem()
    return LETTER_MM if system is QLocale.MeasurementSystem.ImperialUSSystem else A4_MM
