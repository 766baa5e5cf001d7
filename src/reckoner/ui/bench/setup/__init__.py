"""The steps before the first reading: the start, the look-over, and each way to set a reference up. To add a way: its sheet
here, its line in ``otherways``.
"""
