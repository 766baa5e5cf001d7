"""How well a deviation is known: the budget to first order, the simulation that checks it, and what a characterisation is
worth. To add an effect: a row in ``budget``.
"""
