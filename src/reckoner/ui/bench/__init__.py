"""The Bench: one run, one thing to do at a time.

``place``     puts the columns together, talks to the meter and to the shop
``steps``     the column of steps with what each holds
``lookover`` ``setup`` ``pulls`` ``deciding`` ``idle``   the middle, one panel for each kind of step
``readings``  the readings by point
``fences``    the stacked fences at the right
"""

from reckoner.ui.bench.place import BenchPlace

__all__ = ["BenchPlace"]
