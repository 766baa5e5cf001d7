"""Today: what is unfinished, overdue, due, held, late; what to do next, and why; ``year`` and ``catchingup`` beside it, and
``first`` while the shop has no tool."""

from reckoner.ui.today.place import TodayPlace

__all__ = ["TodayPlace"]
