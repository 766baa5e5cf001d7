"""Tools: the register as a list of tags, and one tool's sheet with its fence through time."""

from reckoner.ui.tools.place import ToolsPlace

__all__ = ["ToolsPlace"]
