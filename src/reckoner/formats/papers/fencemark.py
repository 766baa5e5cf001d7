"""The fence mark, wherever it is drawn: two posts, and a dot whose place tells the state."""

from __future__ import annotations

from reckoner.core.decision.states import State


def dot_place(state: State) -> float:
    """Where the fence mark's dot stands: 0 the centre, 1 the right-hand post."""
    return {
        State.INSIDE: 0.0,
        State.INSIDE_NEAR: 0.62,
        State.OUTSIDE_NEAR: 1.34,
        State.OUTSIDE: 1.9,
        State.UNDECIDED: 0.0,
        State.COMPARED: 0.0,
    }[state]
