"""Pure computation: what the numbers of a torque tool's test mean.

Everything here takes and returns plain values, arrays and frozen records. SI inside: a bare torque
is in N·m, a length in m, a mass in kg, a force in N, an angle in rad, a time in s; relative values are
fractions, never percent. Time and randomness come in as arguments. Nothing here knows Qt, a file, a
database or a clock.

Where to find the room for a change:

``errors`` ``checks``       how a wrong input is refused ``units`` ``entry``         unit spellings and what a person types
``printing``                rounding and wording of numbers, the only place that rounds ``kinds``                   types,
classes and mechanisms of tools ``rules``                   rule sets (ISO 6789 and the owner's own) ``reference``
certificate of the torque meter: error, W between points, adequacy ``states``                  the four states of a result
``deviation`` ``budget`` ``decision`` ``verdict``   from readings to a verdict ``trace`` ``stream``        a trace analysed
whole; the signal in a stream while it arrives ``tracetext``               traces as CSV text ``cutting`` ``course``
``signals`` ``knee`` ``plateau`` ``clipping``   the detector behind both: pulls, their course, what gave way ``smoothing``
``mains``     the low-pass and its corner; the mains' ripple ``gauge``                   a force gauge on the lever
``simulation``              Monte Carlo propagation beside the first order ``weights`` ``trips``       known weights on the
lever; where the tool trips ``pin`` ``plan``            what counts at the grip mark; what to hang where ``evidence``
what a silent tool proves ``lever``                   adapters, hand and pivot ``adjusting`` ``wholescale``   what to turn
next; the turn for all points ``characterisation``        what a range of means is worth ``trend``                   first
releases that stand apart ``drift`` ``interval`` ``due``   history, how often, due dates ``comparison`` ``impact``   before
and after an event; what a bad tool may have spoiled ``choosing``                which tool for a job ``sequence``
``beamscale``  the order of tightening; a beam's scale

To add a calculation: a module named by the trade's word for it, frozen records in and out, a docstring
with units, errors, source clause and a worked number, and a page in docs/calculations.md.
"""
