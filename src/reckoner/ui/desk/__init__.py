"""The Desk: what leaves the crib and comes back, and what that may have done.

``place``     its shelves
``lending``   lend and take back by scan
``choosing``  which tool for a torque
``away``      at a laboratory; ``certificate`` enters what came back with a tool
``reviews``   what a bad tool may have spoiled
``costs``     send, test here, or replace
"""

from reckoner.ui.desk.place import DeskPlace

__all__ = ["DeskPlace"]
