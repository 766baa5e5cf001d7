"""Drawings of the trade: the fence, the lever, the trace, charts. Each is given the theme, keeps what it shows as a small
record, and paints apart from it.
"""
