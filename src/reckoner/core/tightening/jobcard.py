"""A job card: a plan with what a person needs beside it, and the tools that its stages are set on."""

from __future__ import annotations

from dataclasses import dataclass, field

from reckoner.core.quantities.units import N_M, Unit
from reckoner.core.tightening.jobs import JobPlan


@dataclass(frozen=True)
class StageTool:
    """The tool of a stage (from 0), by its number, and the adapters on it as a person types them; they chain from the
    drive."""

    stage: int
    number: str
    adapters: tuple[str, ...] = ()


@dataclass(frozen=True)
class JobCard:
    """``number`` names it; ``title`` says what is tightened, ``place`` where. ``reason`` is why the aim is where it is,
    ``marks`` how an angle is seen, ``lubricant`` the maker's word on it, ``instructions`` where the maker's instructions
    stand. Torques are told in ``unit``, running torques in ``running_unit``: they are measured with ``running_tool``, by its
    number."""

    number: str
    plan: JobPlan
    title: str = ""
    place: str = ""
    unit: Unit = field(default=N_M)
    reason: str = ""
    marks: str = ""
    lubricant: str = ""
    instructions: str = ""
    tools: tuple[StageTool, ...] = ()
    running_unit: Unit = field(default=N_M)
    running_tool: str = ""

    def tool_of(self, stage: int) -> StageTool | None:
        """The tool of a stage, or the nearest one named for a stage before it."""
        return next((tool for tool in sorted(self.tools, key=lambda t: -t.stage) if tool.stage <= stage), None)
