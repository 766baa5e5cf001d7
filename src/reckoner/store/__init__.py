"""The database: what is kept, how it is opened, how an old one becomes a new one.

``terms``       the closed vocabularies of the records
``schema``      the tables as typed records
``backend``     what an engine gives, and its failures by code; ``sqlitefile`` is the one there is
``database``    whose thread it is, and its units of work
``migrate``     the newest revision, and what the database itself refuses
``reader``      reading by columns; ``times`` as the database keeps them
``chain``       the chain of digests over the records
``files``       the database as a file: put in place whole, copied, checked
``backup``      a checked copy, and putting one back; ``archive`` traces that went out
``lock``        one window at a time on a folder
``logs``        the program's log as a file
``station``     what belongs to this station: links, mute, window
``migrations``  Alembic revisions, in order; released ones are never edited

Nothing here decides anything about tools; that is the shop's. Nothing that only SQLite can do is used in a query.
To add a table: a class in ``schema`` and a new revision in ``migrations/versions``; a test compares the two.
"""
