"""Two torque meters on one axis: the tool pulls on one that stands in line, and that on a stub or on a second meter.

Whatever passes through one passes through the other, so that either can be the reference: the shop says which. Each has its
own certificate; a pull that is read on both tells whether they agree before either decides.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.checks import at_most, between, positive
from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.reference.certificate import ReferenceAtPoint
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.people.authorship import ShopRefused

if TYPE_CHECKING:
    from reckoner.shop.facts.judged import ReferenceFacts

MOST_RECOUPLED = 0.05
"""A meter that setting it on anew moves by more measures nothing."""


@dataclass(frozen=True)
class InLineFacts:
    """How the reference stands. ``between``: between the tool and what holds it; else what is beside it stands between.
    ``other`` is the number of the meter beside it, empty for a stub, which ``ends`` at so many N·m. ``recoupling``: half
    the width within which its reading moves when it is set on anew, a fraction (None: not known, counted as nothing).
    ``both``: what it and the other showed of one pull, in N·m, each less the error of its certificate."""

    between: bool = True
    other: str = ""
    ends: float | None = None
    recoupling: float | None = None
    both: tuple[float, float] | None = None

    @property
    def apart(self) -> float | None:
        """By what part the two differ; None where no pull was read on both."""
        return None if self.both is None else self.both[0] / self.both[1] - 1

    @property
    def coupling_width(self) -> float:
        """What setting it on anew adds to W (k = 2), a fraction: a rectangle (GUM, 4.3.7).

        >>> round(InLineFacts(recoupling=0.001).coupling_width, 6)
        0.001155
        """
        return 2 * (self.recoupling or 0.0) / math.sqrt(3.0)

    def widened(self, found: ReferenceAtPoint) -> ReferenceAtPoint:
        """What it is worth as it stands, by what its certificate says."""
        return replace(found, expanded_uncertainty=math.hypot(found.expanded_uncertainty, self.coupling_width))


def in_line(
    reference: ReferenceFacts,
    other: ReferenceFacts | None,
    *,
    between_them: bool,
    recoupling: float | None,
    shown: tuple[float, float] | None,
) -> InLineFacts:
    """How they stand; ``shown``, in N·m, is what each showed of one pull. Raises InputRefused."""
    if recoupling is not None:
        between("recoupling", recoupling, 0.0, MOST_RECOUPLED)
    both = None
    if shown is not None and other is not None:
        positive("shows", shown[0])
        positive("other_shows", shown[1])
        both = shown[0] / reference.correction(shown[0]), shown[1] / other.correction(shown[1])
    if other is None:
        return InLineFacts(recoupling=recoupling)
    return InLineFacts(between_them, other.number, other.maximum, recoupling, both)


def check_in_line(
    reference: ReferenceFacts,
    other: ReferenceFacts | None,
    line: InLineFacts,
    tool: ToolFacts,
    targets: tuple[float, ...],
) -> None:
    """Raises ShopRefused with what cannot stand so, and what to do."""
    if other is None:
        return
    if other.number == reference.number:
        raise ShopRefused(tr("{number} cannot stand in line with itself.", number=other.number))
    if not other.bears(max(targets)):
        raise ShopRefused(
            tr(
                "The pull goes through {number} as well, which ends at {end}: take another, or leave points out.",
                number=other.number,
                end=quantity(other.maximum, tool.unit),
            )
        )
    apart, may_be = line.apart, agreement(reference, other, line)
    if apart is not None and may_be is not None and not at_most(abs(apart), may_be):
        raise ShopRefused(
            tr(
                "{one} and {other} differ by {apart} at that pull, and may by {may_be}. Couple them anew and read again; if "
                "it stays so, one of them is wrong, and neither decides.",
                one=reference.number,
                other=other.number,
                apart=percent(abs(apart), 2),
                may_be=percent(may_be, 2),
            )
        )


def agreement(reference: ReferenceFacts, other: ReferenceFacts, line: InLineFacts) -> float | None:
    """By what part the two may differ at the pull that was read on both: √(W₁² + W₂² + re-coupling²); None where one of them
    has no certificate there."""
    if line.both is None or not reference.proven or not other.proven:
        return None
    try:
        own, theirs = reference.at(line.both[0]), other.at(line.both[1])
    except InputRefused:
        return None
    return math.hypot(own.doubt, theirs.doubt, line.coupling_width)


def in_line_words(line: InLineFacts) -> str:
    """How it stands: "between the tool and PM-4"."""
    if not line.other:
        return tr("between the tool and a stub")
    if line.between:
        return tr("between the tool and {other}", other=line.other)
    return tr("under {other}, which stands between", other=line.other)
