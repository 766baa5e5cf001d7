"""What a step of a run can still want, as values. Words for them stand in ``shop.words.results``."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum, auto


class Need(Enum):
    """To add a need: a member here, its words in ``wording.NEED_WORDS``, and whoever asks for it: a procedure or a step."""

    LINES = auto()
    REFERENCE = auto()
    ROOM = auto()
    ZERO = auto()
    POINTER = auto()
    RELEASES = auto()
    ANSWER = auto()
    READINGS = auto()
    ZERO_AFTER = auto()
    POINTER_AFTER = auto()
    ROOM_AGAIN = auto()
    TURN = auto()
    SIGNATURE = auto()


@dataclass(frozen=True)
class Want:
    """``need`` is not met; ``left`` of ``of`` where it is counted."""

    need: Need
    left: int = 0
    of: int = 0
