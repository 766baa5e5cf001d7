"""Which certificates of references count, as the database asks for it: those that nobody took back.

The same of rows in memory: ``facts.newest_certificate``.
"""

COUNTS = "c.id NOT IN (SELECT certificate_id FROM certificate_withdrawal)"
"""Of a certificate ``c``."""

CERTIFIED_UNTIL = f"(SELECT max(c.due) FROM certificate c WHERE c.reference_id = r.id AND {COUNTS})"
"""The last day of a reference ``r``; NULL where nobody has certified it."""
