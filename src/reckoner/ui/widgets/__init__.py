"""Shared widgets, one a file. Each is given the theme, keeps its state as a small record, and paints apart from it."""
