"""Records: what leaves the bench, and what was done. Never arithmetic, never SQL: those stand in ``shop.records``.

``place``     the place: its shelves in one
``results``   signed runs: looked at, saved one or many, printed
``labels``    labels at their true size
``exchange``  everything handed on, and what others handed on
``trail``     who did what, when
``backups``   copies of everything, made and looked at
``storage``   how much room everything takes
"""

from reckoner.ui.records.place import RecordsPlace

__all__ = ["RecordsPlace"]
