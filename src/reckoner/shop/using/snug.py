"""Torque then angle: how well the torque is made that the angle starts from, and the tool that would make it better."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from reckoner.core.quantities.printing import percent, quantity
from reckoner.core.tightening.angle import PARTS, carried
from reckoner.core.tightening.choosing import BEST
from reckoner.core.tightening.jobcard import JobCard
from reckoner.core.translation import tr
from reckoner.shop.using.choosing import Criticality, RankedTool, choose
from reckoner.shop.using.setting import SettingAnswer
from reckoner.shop.using.working import StageAnswer, stages_of
from reckoner.store.reader import Reader


@dataclass(frozen=True)
class SnugTorque:
    """The torque before an angle with the tool that makes it: ``share`` of the tool's full scale where it is set, ``error``
    |ā| + W there as a fraction (None: nobody measured it), and the ``better`` tool, where one is."""

    answer: SettingAnswer
    share: float
    error: float | None
    better: RankedTool | None

    @property
    def low(self) -> bool:
        """Whether it lies lower on its tool than where that does best."""
        return self.share < BEST[0]

    @property
    def words(self) -> str:
        """What it does to the clamp, and what would do less."""
        said = [self._starts, self._stays]
        if self.better is not None:
            ranked = self.better.ranked
            said.append(
                tr(
                    "{number} does better: at {share} of its full scale, error and W up to {error}.",
                    number=self.better.card.tool.number,
                    share=percent(ranked.of_full_scale, 0),
                    error=percent(ranked.expected_error or 0.0, 1),
                )
            )
        elif self.low:
            said.append(tr("No other tool of the shop that may be used does better."))
        return " ".join(said)

    @property
    def _starts(self) -> str:
        tool, ask = self.answer.ask.tool, self.answer.ask
        lies = tr("low on it, at {share}", share=percent(self.share, 0)) if self.low else percent(self.share, 0)
        return tr(
            "The angle starts from {torque} of {number}, {lies} of its full scale.",
            torque=quantity(ask.wanted, ask.unit),
            number=tool.number if tool is not None else tr("the tool"),
            lies=lies,
        )

    @property
    def _stays(self) -> str:
        if self.error is None:
            return tr("What is wrong there stays in the clamp, and nobody measured it there.")
        few, many = (percent(carried(self.error, part), 1) for part in PARTS)
        return tr(
            "What is wrong there stays in the clamp: of up to {error}, {few} of it where the torque makes a quarter of the "
            "clamp, {many} where it makes half.",
            error=percent(self.error, 1),
            few=few,
            many=many,
        )


def read_stages(reader: Reader, card: JobCard, today: date) -> tuple[tuple[StageAnswer, ...], SnugTorque | None]:
    """Each stage of a card, and what its angle starts from."""
    stages = stages_of(reader, card, today)
    return stages, snug_torque(reader, card, stages, today)


def snug_torque(reader: Reader, card: JobCard, stages: Sequence[StageAnswer], today: date) -> SnugTorque | None:
    """The last torque before the card's angle, with the tool named for it; None without an angle, or a tool that can be set
    so."""
    found = stages[-1].answer if card.plan.angle is not None and stages else None
    if found is None or found.ask.tool is None or found.out_of_range:
        return None
    tool, error = found.ask.tool, found.expected_error
    share = found.setting / tool.kind.maximum
    better = None
    if share < BEST[0]:
        ranked = choose(reader, found.ask, today, Criticality(), leave=tool.id)
        better = next((one for one in ranked if one.usable and _does_better(one, share, error)), None)
    return SnugTorque(found, share, error, better)


def _does_better(one: RankedTool, share: float, error: float | None) -> bool:
    expected = one.ranked.expected_error
    if expected is None or one.ranked.of_full_scale <= share:
        return False
    return error is None or expected < error
