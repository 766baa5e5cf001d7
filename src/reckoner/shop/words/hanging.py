"""Words of the set-up with known weights: its choices, what one step of each makes, and what the box cannot make."""

from __future__ import annotations

from reckoner.core.quantities.printing import quantity
from reckoner.core.translation import tr
from reckoner.shop.facts.tool import ToolFacts
from reckoner.shop.procedures.tries import TripFinding
from reckoner.shop.procedures.trips import MATCHING
from reckoner.shop.setups import plan
from reckoner.shop.setups.hanging import Anchor, HungAt, Levelled, LeverFacts

TRIP_FINDING_WORDS = {
    TripFinding.SETTING: tr("the setting"),
    TripFinding.HOOK: tr("the hook"),
    TripFinding.WEIGHTS: tr("the weights"),
}


LEVEL_WORDS = {
    Levelled.LEVEL: tr("with a level"),
    Levelled.EYE: tr("by eye, to 3°"),
    Levelled.MEASURED: tr("measured off level"),
}


ANCHOR_WORDS = {Anchor.VICE: tr("the drive in a vice"), Anchor.NUT: tr("on a nut that surely holds")}


def at_the_mark(tool: ToolFacts) -> str:
    """Where alone it can hang; empty where it hangs anywhere."""
    if not plan.must_hang_at_the_mark(tool):
        return ""
    return tr(" at the rim") if tool.kind.is_screwdriver else tr(" at the grip mark")


def too_few(tool: ToolFacts, point: str) -> str:
    """Why weights cannot be added at a point, and what could be varied instead."""
    only = plan.must_hang_at_the_mark(tool)
    where = at_the_mark(tool)
    more = tr(" Or vary something else.")
    if only and not tool.kind.is_screwdriver:
        more = tr(" Or say on its model where its pin is, and the hook can be varied.")
    return tr(
        "There are too few small weights to find {point} by adding them{where}: add some to the register.{more}",
        point=point,
        where=where,
        more=more,
    )


def steps_words(lever: LeverFacts, hung: HungAt, tool: ToolFacts) -> str:
    """How finely weights can be added; empty where none are."""
    if not hung.rungs:
        return ""
    step = quantity(MATCHING.resolution(lever, hung), tool.unit, 2)
    return tr(" Added in {count} steps, {step} at most.", count=len(hung.rungs), step=step)
