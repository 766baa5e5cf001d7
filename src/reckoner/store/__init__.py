"""The database: what is kept, how it is opened, how an old one becomes a new one.

``schema``      the tables as typed records
``database``    opening, refusing, migrating; the one place that knows the engine
``migrations``  Alembic revisions, in order; released ones are never edited

Nothing here decides anything about tools; that is the shop's. Nothing that only SQLite can do is used in a query.
To add a table: a class in ``schema`` and a new revision in ``migrations/versions``; a test compares the two.
"""
