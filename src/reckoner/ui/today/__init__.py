"""Today: what is unfinished, overdue, due, held, late; what to do next, and why."""

from reckoner.ui.today.place import TodayPlace

__all__ = ["TodayPlace"]
