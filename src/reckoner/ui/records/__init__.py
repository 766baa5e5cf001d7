"""Records: what leaves the bench, and what was done. Never arithmetic, never SQL: those stand in ``shop.records``.

``labels``   labels at their true size
``place``    the place: its shelves in one
``results``  signed runs: preview, save, print    ``batch``    many of them, one after the other, with a way to stop
``trail``    who did what, when                   ``documents``  what is made of a signed run
``backups``  copies of everything, made and looked at
"""

from reckoner.ui.records.place import RecordsPlace

__all__ = ["RecordsPlace"]
