"""Reckoner: tests torque wrenches and torque screwdrivers, and keeps their history.

The layers, from the top (an import may only point down):

``ui``       the window: theme, shared widgets, one package for each place
``cli``      the ``reckoner`` command
``demo``     the invented cableway workshop to try things on
``shop``     what the shop does: register, runs, holds, due dates (no Qt)
``store`` | ``formats`` | ``meters``   database · files in and out · links to meters
``core``     pure computation

``__main__`` is the only module that joins the command to the window.
"""

import os

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # our sums are small: further threads would only spin beside a meter

__version__ = "0.1.0"
