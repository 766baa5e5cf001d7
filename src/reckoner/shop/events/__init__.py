"""What happens to a tool: each kind of event declared once (``kinds``), recorded (``recording``), and what a tool is after
all of them (``standing``), kept beside its records (``projection``). To add an event: a row in ``kinds``.
"""
