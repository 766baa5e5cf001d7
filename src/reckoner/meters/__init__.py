"""Links to torque meters, real and simulated. No Qt: a caller reads a link on a thread of its own.

``protocol``   the line protocol (docs/meter-protocol.md): writing and reading its lines
``link``       a meter behind a pyserial URL or device path, as an iterator of events
``plain``      a meter that sends one value a line, with a configurable pattern
``replay``     a trace kept as CSV, played as a meter
``dial``       opens whichever a reference's link names; lists serial ports
``pull``       one pull from samples to readings
``wrench``     the physics of a simulated tool and the hand on it
``indicator``  what a meter makes of the torque at its drive
``made``       pulls made from formulas, by which the detector is measured
``standin``    a meter that is not there: serves the protocol on a socket or a pseudo-terminal

To add a kind of meter: an object with ``events``, ``send`` and ``close`` as in ``link``, and a scheme in ``dial``.
"""
