"""Tools: the register as a list of tags or a table, and one tool's sheet with its fence through time.

``tools_list``, ``columns``  the two ways of listing, over ``paged`` models that ``feeding`` fills
``together``                 one change for all that are chosen in the table
``kept``, ``saving``         filters that are kept; the list as a file
``sheet``, ``howoften``      one tool
``bringing``, ``rightside``  what stands there instead while tools are added or brought in
``shelves``                  models, people and the shop beside the tools
"""

from reckoner.ui.tools.place import ToolsPlace

__all__ = ["ToolsPlace"]
