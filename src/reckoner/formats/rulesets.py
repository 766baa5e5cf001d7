"""Rule sets as TOML files: reading them, and a sentence for each mistake in one.

The shipped ones stand in ``shipped_rules``; to add one, put a file there and name it in ``SHIPPED``. The schema is
described in docs/file-formats.md.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from functools import cache
from importlib import resources
from pathlib import Path
from typing import Annotated, Any

from pydantic import BeforeValidator, Field, ValidationError, model_validator

from reckoner.core.quantities.units import Kind
from reckoner.core.requirements.rules import Adequacy, Coverage, Decision, LimitRow, PullRule, Room, Rule, RuleSet
from reckoner.core.requirements.tooltypes import CLASSES, ToolType
from reckoner.core.translation import tr
from reckoner.formats.fields import StrictModel, quantity, sentences
from reckoner.formats.files import TextRefused, read_text, read_toml
from reckoner.formats.refusals import FileRefused

SHIPPED = ("iso-6789-2017", "iso-6789-2003", "quick-check", "working-range")


class RuleSetRefused(FileRefused):
    """A rule set file cannot be used."""


def _tool(value: Any) -> tuple[str, str]:
    words = str(value).split()
    if len(words) == 2 and words[0] in set(ToolType) and words[1] in CLASSES[ToolType(words[0])]:
        return words[0], words[1]
    raise ValueError(f'"{value}" is not a type and class such as "II A"')


Ratio = Annotated[float, quantity(Kind.RATIO)]
Share = Annotated[Ratio, Field(gt=0, le=1)]
Limit = Annotated[Ratio, Field(gt=0, lt=0.5)]
Seconds = Annotated[float, quantity(Kind.TIME), Field(gt=0, le=60)]
ToolClass = Annotated[tuple[str, str], BeforeValidator(_tool)]
Count = Annotated[int, Field(ge=1, le=100, strict=True)]


class _LimitRow(StrictModel):
    tools: list[ToolClass] = Field(min_length=1)
    max_to_10_Nm: Limit
    max_above_10_Nm: Limit


class _Points(StrictModel):
    stated_minimum: bool = False
    unstated_minimum: Share = 0.2
    of_maximum: list[Share] = Field(default_factory=list)
    chosen_by_owner: bool = False

    @model_validator(mode="after")
    def _some(self) -> _Points:
        if not (self.stated_minimum or self.of_maximum or self.chosen_by_owner):
            raise ValueError("name at least one point, or set chosen_by_owner = true")
        return self


class _Readings(StrictModel):
    each: Count = 5
    by_tool: dict[ToolClass, Count] = Field(default_factory=dict)


class _Exercise(StrictModel):
    releases: Annotated[int, Field(ge=0, le=50, strict=True)] = 5


class _Pull(StrictModel):
    approach: Annotated[str, Field(pattern="^from (below|above)$")] = "from below"
    from_: Share = Field(0.8, alias="from")
    shortest: Seconds = 0.5
    longest: Seconds = 4.0


class _Room(StrictModel):
    coldest_C: Annotated[float, Field(ge=-40, le=60)] = 18.0
    warmest_C: Annotated[float, Field(ge=-40, le=60)] = 28.0
    drift_C: Annotated[float, Field(gt=0, le=20)] = 1.0
    humidity: Share = 0.9


class _ReferenceRule(StrictModel):
    adequate: Adequacy = Adequacy.QUARTER_OF_LIMIT
    within: Share = 0.25
    least_of_range: Annotated[Ratio, Field(ge=0, lt=1)] = 0.2


class _Decision(StrictModel):
    rule: Rule = Rule.EVERY_READING
    guard_factor: Annotated[float, Field(ge=0, le=10)] = 1.0
    level: Annotated[float, Field(gt=0.5, lt=1)] = 0.95
    coverage: Coverage = Coverage.K2


class _Interval(StrictModel):
    months: Annotated[int, Field(ge=1, le=120, strict=True)] = 12
    cycles: Annotated[int, Field(ge=0, strict=True)] = 5000
    renews_due_date: bool = True


class _Signing(StrictModel):
    second_person: bool = False


class _File(StrictModel):
    name: Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{1,60}$")]
    title: Annotated[str, Field(min_length=1, max_length=80)]
    source: Annotated[str, Field(min_length=1)]
    limits_of: str | None = None
    follows_tool: bool = False
    limits: list[_LimitRow] = Field(default_factory=list)
    points: _Points
    readings: _Readings = Field(default_factory=_Readings)
    exercise: _Exercise = Field(default_factory=_Exercise)
    pull: _Pull = Field(default_factory=lambda: _Pull.model_validate({}))
    room: _Room = Field(default_factory=_Room)
    reference: _ReferenceRule = Field(default_factory=_ReferenceRule)
    decision: _Decision = Field(default_factory=_Decision)
    interval: _Interval = Field(default_factory=_Interval)
    signing: _Signing = Field(default_factory=_Signing)

    @model_validator(mode="after")
    def _limits_from_somewhere(self) -> _File:
        if bool(self.limits) == bool(self.limits_of):
            raise ValueError("give either [[limits]] rows or limits_of, the name of another rule set")
        if self.follows_tool and not self.limits_of:
            raise ValueError("follows_tool goes with limits_of, the rule set for a tool that has none of its own")
        return self


def parse(text: str, source: str = tr("rule set"), *, known: Mapping[str, RuleSet] | None = None) -> RuleSet:
    """The rule set that a TOML ``text`` says. ``known`` are further rule sets that ``limits_of`` may name.

    Raises RuleSetRefused with one sentence for each mistake, each naming its key.
    """
    try:
        raw = read_toml(text)
    except TextRefused as refusal:
        raise RuleSetRefused(source, (refusal.why,)) from None
    try:
        file = _File.model_validate(raw)
    except ValidationError as fault:
        raise RuleSetRefused(source, sentences(fault)) from None
    return _rule_set(file, source, known or {})


def _rule_set(file: _File, source: str, known: Mapping[str, RuleSet]) -> RuleSet:
    if file.limits_of:
        if file.limits_of not in known and file.limits_of not in SHIPPED:
            raise RuleSetRefused(
                source, (tr('limits_of: there is no rule set named "{limits_of}"', limits_of=file.limits_of),)
            )
        limits = (known.get(file.limits_of) or shipped(file.limits_of)).limits
    else:
        limits = tuple(LimitRow(tuple(r.tools), r.max_to_10_Nm, r.max_above_10_Nm) for r in file.limits)
    return RuleSet(
        name=file.name,
        title=file.title,
        source=file.source,
        limits=limits,
        minimum_point=file.points.stated_minimum,
        fractions=tuple(file.points.of_maximum),
        unstated_minimum=file.points.unstated_minimum,
        owner_points=file.points.chosen_by_owner,
        readings=file.readings.each,
        readings_by_tool=tuple(file.readings.by_tool.items()),
        exercise=file.exercise.releases,
        approach=file.pull.approach,
        pull=PullRule(file.pull.from_, file.pull.shortest, file.pull.longest),
        room=Room(file.room.coldest_C, file.room.warmest_C, file.room.drift_C, file.room.humidity),
        adequacy=file.reference.adequate,
        adequate_within=file.reference.within,
        least_of_range=file.reference.least_of_range,
        decision=Decision(file.decision.rule, file.decision.guard_factor, file.decision.level, file.decision.coverage),
        months=file.interval.months,
        cycles=file.interval.cycles,
        renews_due_date=file.interval.renews_due_date,
        second_person=file.signing.second_person,
    )


def whole_text(name: str, of_tool: str) -> str:
    """The text of the rule set ``name`` as it is kept with a run of a tool that is judged by the rule set ``of_tool``.

    Its limits are written out, so that the run can be recomputed whatever another rule set says by then; they are those of
    ``of_tool`` where the rule set follows the tool's. Raises RuleSetRefused for a name that there is not.
    """
    text = shipped_text(name)
    file = _File.model_validate(tomllib.loads(text))
    if file.limits_of is None:
        return text
    rows = shipped(of_tool if file.follows_tool else file.limits_of).limits
    written = (
        f"[[limits]]\ntools = {[' '.join(kind) for kind in row.tools]}\n"
        f'max_to_10_Nm = "{row.up_to_step * 100:.6g} %"\nmax_above_10_Nm = "{row.above_step * 100:.6g} %"\n'
        for row in rows
    )
    kept = (line for line in text.splitlines() if not line.startswith(("limits_of", "follows_tool")))
    return "\n".join([*kept, "", *written])


def load(path: Path) -> RuleSet:
    """The rule set in the file at ``path``. Raises RuleSetRefused."""
    try:
        text = read_text(path)
    except TextRefused as refusal:
        raise RuleSetRefused(str(path), (refusal.why,)) from None
    return parse(text, path.name)


def shipped_text(name: str) -> str:
    """The TOML text of a shipped rule set. Raises RuleSetRefused when there is none of that name."""
    if name not in SHIPPED:
        raise RuleSetRefused(name, (tr("there is no such rule set; there are {list}", list=", ".join(SHIPPED)),))
    return (resources.files("reckoner.formats") / "shipped_rules" / f"{name}.toml").read_text(encoding="utf-8")


@cache
def shipped(name: str) -> RuleSet:
    """A shipped rule set by name. Raises RuleSetRefused when there is none."""
    return parse(shipped_text(name), f"{name}.toml")
