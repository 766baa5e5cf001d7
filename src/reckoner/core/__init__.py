"""Pure computation: what the numbers of a torque tool's test mean.

Everything here takes and returns plain values, arrays and frozen records. SI inside: a bare torque is in N·m, a length
in m, a mass in kg, a force in N, an angle in rad, a time in s; relative values are fractions, never percent. Time and
randomness come in as arguments. Nothing here knows Qt, a file, a database or a clock.

``translation``   every text that a person sees passes here
``errors``        the two families of errors
``quantities``    units, what a person types, how numbers and days are printed: the only place that rounds
``requirements``  types and classes of tools, stated limits, rule sets (ISO 6789 and the owner's own)
``reference``     what a torque is known by: a certificate, weights on a lever, a force gauge
``uncertainty``   the budget of a deviation, and its simulation
``decision``      from a budget to a state and a run's verdict
``trace``         the detector: torque against time
``adjusting``     the next turn of a screw, a beam's scale
``tightening``    setting a tool for a joint, adapters, jobs, which tool
``history``       drift, intervals, due dates, before and after, what a bad tool may have spoiled

A room imports only from those above it. To add a calculation: a module in its room named by the trade's
word for it, frozen records in and out, a docstring with units, errors, source clause and a worked number, and a page in
docs/calculations.md.
"""
