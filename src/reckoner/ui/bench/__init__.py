"""The Bench: one run, one thing to do at a time.

``place``     puts the columns together, talks to the shop
``meterdesk`` the meter: its link, whether it is the right one, what it shows and is told
``steps``     the column of steps with what each already holds
``idle`` ``newtool`` ``start`` ``lookover`` ``setup`` ``pulls`` ``adjusting`` ``deciding``   the middle, one panel a step
``instructions`` the one thing to do now, in words
``readings``  the readings by point
``fences``    the stacked fences at the right
``screw`` ``shares``   the adjusting screw and its line; the budget as bars
``faraway``   the reading over the whole screen
"""

from reckoner.ui.bench.place import BenchPlace

__all__ = ["BenchPlace"]
