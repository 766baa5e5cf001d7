"""The four states of a result, and the two without a decision; best first."""

from __future__ import annotations

from enum import StrEnum

from reckoner.core.translation import mark, tr


class State(StrEnum):
    """Where a result lies; UNDECIDED when the reference may not judge, COMPARED when nobody knows what it is
    worth: a shop check, which tells numbers and decides nothing."""

    INSIDE = "inside"
    INSIDE_NEAR = "inside-near"
    OUTSIDE_NEAR = "outside-near"
    OUTSIDE = "outside"
    UNDECIDED = "undecided"
    COMPARED = "compared"

    @property
    def words(self) -> str:
        return tr(_WORDS[self])

    @property
    def severity(self) -> int:
        """0 for inside, rising to what decides nothing."""
        return list(State).index(self)


_WORDS = {
    State.INSIDE: mark("inside"),
    State.INSIDE_NEAR: mark("inside, near the fence"),
    State.OUTSIDE_NEAR: mark("outside, near the fence"),
    State.OUTSIDE: mark("outside"),
    State.UNDECIDED: mark("not decided"),
    State.COMPARED: mark("compared in the shop, not decided"),
}
