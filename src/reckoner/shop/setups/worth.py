"""What counts in the uncertainty of what hangs on a lever, what would improve it, and what shortcuts would make of it."""

from __future__ import annotations

import math
from dataclasses import replace
from itertools import combinations

from reckoner.core.quantities.ownunits import METRIC, OwnUnits
from reckoner.core.quantities.printing import percent
from reckoner.core.translation import tr
from reckoner.shop.setups.hanging import HungAt, K, LeverFacts

SHARE_WORDS = {
    "mass": tr("the mass of what hangs"),
    "length": tr("the length to the hook"),
    "gravity": tr("local gravity"),
    "incline": tr("the lever's level"),
    "own_torque": tr("the tool's own weight"),
    "pin": tr("where the pin lies"),
    "head_mass": tr("the head, which does not swing and was not weighed"),
}

BETTER = {
    "mass": tr("weigh them on a better scale"),
    "length": tr("measure it with a finer rule"),
    "gravity": tr("say under Tools, Shop where the shop stands"),
    "incline": tr("use a level instead of the eye"),
    "own_torque": tr("balance it on an edge more carefully, and weigh it"),
    "pin": tr("hang at the grip mark, or find the pin with two hooks"),
    "head_mass": tr("weigh the head"),
}


def biggest_share(facts: LeverFacts, hung: HungAt) -> str:
    """What counts most in the uncertainty, and what it would be without half of it, with what to do."""
    shares = facts.shares(hung)
    name, most = shares[0]
    rest = math.sqrt(sum(share**2 for _, share in shares[1:]))
    now, then = math.hypot(most, rest), math.hypot(most / 2, rest)
    part = most**2 / now**2 if now else 0.0
    torque = facts.torque(hung)
    what = f"{SHARE_WORDS[name][:1].upper()}{SHARE_WORDS[name][1:]}"
    now_w, then_w = percent(K * now / torque, 2), percent(K * then / torque, 2)
    return tr(
        "{what} is {part} of it: {better}; half as unsure, W goes from {now_w} to {then_w}.",
        what=what,
        part=percent(part, 0),
        better=BETTER[name],
        now_w=now_w,
        then_w=then_w,
    )


SLID = 0.010
"""m that a weight slides outwards when it is not lifted off between tries."""

LOST = 5e-4
"""A shortcut that costs less is not worth a word."""

HIDDEN = 0.5
"""Of the smaller of two shortcuts: what is left of both together, if they are said to hide each other."""

WORTH_A_WORD = 0.1
"""Of the limit: a smaller shortcut hides nothing."""


def hiding(told: tuple[tuple[str, float], ...], limit: float) -> tuple[tuple[str, str, float], ...]:
    """The pairs of shortcuts that hide each other, and what is left of both together, as a fraction: who takes both sees
    nothing wrong, and who mends one alone is worse off than before. ``limit`` is the tool's.

    >>> hiding((("one", 0.02), ("other", -0.018), ("third", 0.001)), 0.04)[0][:2]
    ('one', 'other')
    """
    found = []
    for (one, a), (other, b) in combinations(told, 2):
        together = (1 + a) * (1 + b) - 1
        if min(abs(a), abs(b)) >= WORTH_A_WORD * limit and abs(together) <= HIDDEN * min(abs(a), abs(b)):
            found.append((one, other, together))
    return tuple(found)


def shortcuts(
    facts: LeverFacts, hung: HungAt, stamped: dict[str, float], own: OwnUnits = METRIC
) -> tuple[tuple[str, float], ...]:
    """What shortcuts would make of the torque, as fractions of it: computed instead of what really pulls; lengths are told in
    one's ``own`` units."""
    torque = facts.torque(hung)

    def off(other: LeverFacts, hang: HungAt) -> float:
        return other.torque(hang) / torque - 1

    found = [(tr("rounding gravity to 10"), off(replace(facts, gravity=10.0), hung))]
    if not facts.disc:
        bare = replace(facts, own_mass=0.0, own_centre=0.0, own_torque=None, head=None)
        by = own.on_rule(SLID)
        slid = replace(hung, hook=hung.hook + by)
        found += [
            (tr("forgetting the tool's own weight"), off(bare, hung)),
            (tr("a lever 5° off level, unseen"), 1 / math.cos(math.radians(5.0)) - 1),
            (tr("a weight that slid out by {by}", by=own.length_words(by)), torque / facts.torque(slid) - 1),
        ]
    if facts.pivot and facts.grip is not None and abs(hung.hook - facts.grip) > 0.002:
        found.append((tr("taking mass times length, hung off the grip mark"), facts.made(hung).torque / torque - 1))
    believed = replace(hung, weights=tuple(replace(w, mass=stamped.get(w.number, w.mass)) for w in hung.weights))
    if abs(believed.mass - hung.mass) > 1e-6:
        found.append((tr("believing the stamps"), off(facts, believed)))
    return tuple((words, share) for words, share in found if abs(share) >= LOST)
