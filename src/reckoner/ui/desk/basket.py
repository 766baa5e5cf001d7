"""The tools that were scanned at the desk, and go out together."""

from __future__ import annotations

from reckoner.shop.register.cards import ToolCard
from reckoner.ui.theme import Theme
from reckoner.ui.widgets.chips import Chips


class Basket(Chips):
    """A chip for each tool, in the order in which they came; a press takes it out again, and is told by ``chosen()``."""

    def __init__(self, theme: Theme, name: str) -> None:
        super().__init__(theme, name, several=True)
        self.tools: dict[int, ToolCard] = {}
        self.chosen.connect(self._take_out)

    def put(self, *tools: ToolCard) -> None:
        """Tools that go as well."""
        self._hold(self.tools | {one.tool.id: one for one in tools})

    def clear(self) -> None:
        """None goes."""
        self._hold({})

    def _take_out(self) -> None:
        kept = {int(key) for key in self.on}
        self._hold({tool_id: one for tool_id, one in self.tools.items() if tool_id in kept})

    def _hold(self, tools: dict[int, ToolCard]) -> None:
        self.tools = tools
        on = [(str(tool_id), f"{one.tool.number}  ×") for tool_id, one in tools.items()]
        self.offer(on, [key for key, _ in on])
