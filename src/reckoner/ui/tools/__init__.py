"""Tools: the register as a list of tags or a table, and one tool's sheet with its fence through time.

``place``       the list beside what is chosen
``tools_list``  the list of tags, read as it is looked at; ``columns`` the table
``together``    one change for all that are chosen in the table
``filters``     filters that are kept; the list as a file
``sheet``       one tool; ``howoften`` it is tested
``rightside``   what stands there while tools are added or brought in (``bringing``); ``beamscale`` a scale marked anew
``shelves``     models, people and the shop beside the tools
"""

from reckoner.ui.tools.place import ToolsPlace

__all__ = ["ToolsPlace"]
