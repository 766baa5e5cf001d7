"""The detector: torque against time, from samples to pulls, signals and faults. ``analysis`` takes a trace that is whole,
``stream`` one that is arriving; both stand on the same steps. To add a fault: ``signals``, and its condition in the
detector's benchmark.
"""
