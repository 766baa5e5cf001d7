"""Quantities as people write them: units, what is typed, how numbers and days are printed, and refusing those that no
measurement can have. To add a unit: a row in ``units``.
"""
