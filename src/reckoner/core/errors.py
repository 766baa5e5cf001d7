"""The two families of errors, under one base.

``Refused``: what came from outside cannot be used (an entry, a file, a port, a disk). It carries a sentence for
the person: what is wrong, and what to do. ``OurFault``: the program broke its own promise; it is logged
with its trace and apologised for, never hidden.
"""

from __future__ import annotations

from reckoner.core.translation import tr


class ReckonerError(Exception):
    """Base of every error that Reckoner raises itself."""


class Refused(ReckonerError):
    """Something from outside cannot be used; ``str()`` is a sentence a technician can act on."""


class RefusedOnRecord(Refused):
    """Something was refused, and that it was asked for is kept: ``keep`` writes it in a unit of work of its own, after
    the one that was refused was rolled back."""

    def keep(self, session: object) -> None:
        """Write what is kept of it."""
        raise NotImplementedError


class InputRefused(Refused):
    """A value that was given cannot be used.

    ``field`` names it as the caller does (``readings[2]``), ``value`` is what was given and ``reason``
    completes the sentence "<field>: <reason>".
    """

    def __init__(self, field: str, value: object, reason: str) -> None:
        super().__init__(field, value, reason)
        self.field = field
        self.value = value
        self.reason = reason

    def __str__(self) -> str:
        return f"{self.field}: {self.reason}"

    def within(self, prefix: str) -> InputRefused:
        """The same refusal, its field seen from an enclosing record: ``points[1].readings[2]``."""
        return InputRefused(f"{prefix}.{self.field}", self.value, self.reason)


class OurFault(ReckonerError):
    """The program broke its own promise."""


class UnreachableError(OurFault):
    """A branch that the types say cannot be taken was taken with ``value``."""

    def __init__(self, value: object) -> None:
        super().__init__(value)
        self.value = value

    def __str__(self) -> str:
        return tr("a case that should not exist was reached: {value!r}", value=self.value)
