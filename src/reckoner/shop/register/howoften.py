"""How often a tool is tested, as its sheet says it: what each school would give, and which one holds."""

from __future__ import annotations

from dataclasses import dataclass

from reckoner.core.interval import School
from reckoner.core.translation import tr
from reckoner.formats.rulesets import shipped
from reckoner.shop.intervals import SHORT_WORDS, Interval, basis, proposed, whose_school
from reckoner.shop.register.sheet import ToolSheet
from reckoner.store.reader import Reader


@dataclass(frozen=True)
class HowOften:
    """``holds`` is the school in force and ``whose`` it is; ``each`` is what each school would give after another result
    like the last one; ``cycles`` were counted since the last full run, of those that the rule set ``allows``."""

    holds: School
    whose: str
    each: tuple[Interval, ...]
    cycles: int
    allows: int

    @property
    def words(self) -> str:
        """Such as "Fixed months, as the shop does. 340 cycles counted since its last full run, of 5000."."""
        counted = (
            tr(" {cycles} cycles counted since its last full run, of {allows}.", cycles=self.cycles, allows=self.allows)
            if self.cycles
            else ""
        )
        return f"{SHORT_WORDS[self.holds]}, {self.whose}.{counted}"


def how_often(reader: Reader, sheet: ToolSheet) -> HowOften:
    """The schools held against a tool's last full run, as it was found."""
    tool, rules = sheet.card.tool, shipped(sheet.card.tool.rule_set)
    months = tool.interval_months or rules.months
    school, whose = whose_school(reader, tool.id)
    found = next((run for run in reversed(sheet.runs) if run.due is not None), None)
    used = max((p.worst / p.limit for p in found.points if not p.as_left), default=None) if found else None
    each = tuple(proposed(basis(reader, tool.id, months, school=one), used) for one in School)
    return HowOften(school, whose, each, sheet.card.standing.cycles, rules.cycles)
