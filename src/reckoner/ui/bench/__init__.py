"""The Bench: one run, one thing to do at a time.

``presenter``     the state of the bench apart from its widgets
``place``         puts the columns together over it; what stands there with nothing on it
``panel``         what every panel in the middle offers; ``panels`` makes each when its step comes
``setup``         the panels before the first reading
``series``        the panels in which readings are taken
``adjusting``     the panel of the screw
``deciding``      the panel of the verdict and the signature
``meter``         the link, and what it brings
``columns``       steps and meter at the left, fences and the primary button at the right; ``fences``
``instructions``  the one thing to do now, in words; ``faraway`` the reading over the whole screen

To add a step's panel: a module in the room of its step, and a row in ``panels``.
"""

from reckoner.ui.bench.place import BenchPlace

__all__ = ["BenchPlace"]
