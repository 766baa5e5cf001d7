"""The Harrowmere Cableway: an invented workshop to try Reckoner on, and what pictures and tests are made from.

``scenario.toml``   the register and the tools' stories; edit this to change the demo
``scenario``        reads it, and knows its date
``build``           writes it into a fresh database, with a fixed seed and date, so that it always comes out the same
``shipped``         puts what it has written, shipped as ``harrowmere.sqlite.gz``, into a folder: a demo is there at once

After a change of the scenario, of how it is written or of the tables: ``make demo-data``; a test compares the two.
"""
