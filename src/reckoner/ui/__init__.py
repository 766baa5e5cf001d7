"""The window: PyQt6 widgets over the shop. No arithmetic, no SQL.

``theme``       every colour, type size, spacing and shape code, light and dark ``actions``     every action with its key
and tooltip, declared once ``work``        the doors to background work: writing, reading, computing ``meterwatch``  a
meter's link on a thread of its own ``widgets``     shared widgets, one a file: fence, tag, entry field, list of lines,
paper, cautions, … ``today`` ``bench`` ``tools`` ``references`` ``setting`` ``desk`` ``records``   the places, one package
each: none loads another ``window``      the frame: rail, top line, places ``gallery``     every shared widget in every
state, for looking at

To add a place: a package with a widget that follows ``place.Place``, and a row in ``window.PLACES``.
"""
