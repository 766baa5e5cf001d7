"""A tool as it is set and fitted for a run: by its second scale, with another of its exchangeable heads."""

from __future__ import annotations

import math
from dataclasses import replace

from reckoner.core.lever import Adapter, Lever, factor
from reckoner.core.printing import fixed, quantity
from reckoner.core.translation import tr
from reckoner.core.units import MILLIMETRE
from reckoner.formats.languages import say
from reckoner.shop.acts import ShopRefused
from reckoner.shop.toolfacts import SecondScale, ToolFacts


def on_second_scale(tool: ToolFacts) -> ToolFacts:
    """The tool set by its other scale: its points are that one's, and so is what it shows. Raises ShopRefused without one
    whose graduation is known."""
    second = tool.second
    if second is None or second.resolution is None:
        raise ShopRefused(tr("The register does not know the graduation of its second scale."))
    first = SecondScale(tool.unit, tool.kind.resolution)
    return replace(tool, unit=second.unit, kind=replace(tool.kind, resolution=second.resolution), second=first)


def with_head(tool: ToolFacts, head: float) -> ToolFacts:
    """The tool with a head on it of so many m from drive centre to seat. Raises ShopRefused for one that cannot be."""
    if tool.made_for_head is None or tool.lever is None:
        raise ShopRefused(tr("The register does not know the head that it was made for, or its lever length."))
    if not 0 < head < tool.made_for_head + tool.lever:
        raise ShopRefused(tr("No head is as long as that; check the length and its unit."))
    return replace(tool, head=head)


def head_factor(tool: ToolFacts) -> float:
    """Torque at the fastener over what the scale says, with the head that is on it: only the difference of the heads'
    lengths counts. 1 with the head that it was made for, or where its lever is not known."""
    if tool.head is None or tool.made_for_head is None or tool.lever is None:
        return 1.0
    more = tool.head - tool.made_for_head
    return factor(Lever(tool.lever, tool.pivot), [Adapter(abs(more), 0.0 if more >= 0 else math.pi)])


def head_words(tool: ToolFacts) -> str:
    """Which head was on it, where it is another than the tool was made for; else empty."""
    factor_of_head = head_factor(tool)
    if factor_of_head == 1 or tool.head is None or tool.made_for_head is None:
        return ""
    on_it, made_for = (quantity(length, MILLIMETRE) for length in (tool.head, tool.made_for_head))
    return say("tool.head", on_it=on_it, made_for=made_for, factor=fixed(factor_of_head, 5))


def scale_words(tool: ToolFacts) -> str:
    """By which of its two scales it was set; empty where it has one."""
    return say("tool.scale", unit=tool.unit.symbol) if tool.second is not None else ""
