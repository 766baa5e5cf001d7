"""Records: what leaves the bench, and what was done. Never arithmetic, never SQL: those stand in ``shop.records``.

``labels``   labels at their true size
``place``    the place: four shelves in one      ``lines``    a list that grows as it is looked through
``results``  signed runs: preview, save, print    ``batch``    many of them, one after the other, with a way to stop
``paper``    a document as it will be printed     ``trail``    who did what, when
``backups``  copies of everything, made and looked at
"""

from reckoner.ui.records.place import RecordsPlace

__all__ = ["RecordsPlace"]
