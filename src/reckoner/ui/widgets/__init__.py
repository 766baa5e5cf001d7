"""Shared controls: each is given the theme and keeps its state as a small record. Drawings of the trade stand in
``ui.drawings``.
"""
