"""From a budget to what may be said: states, conformity, the verdict of a run, and readings that do not fit. What is
required stands in ``core.requirements``, how well a figure is known in ``core.uncertainty``.
"""
