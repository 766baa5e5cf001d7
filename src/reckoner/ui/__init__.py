"""The window: PyQt6 widgets over the shop. No arithmetic, no SQL.

``theme``     every colour, type size, spacing and shape code, light and dark
``actions``   every action with its key and tooltip, declared once
``work``      the doors to background work: writing, reading, computing; ``latest`` asks as fast as one types
``place``     what every place offers and is given; ``places`` declares each, and going to one
``window``    the main window and what frames every place
``widgets``   shared controls; ``drawings`` of the trade
``register``  the sheets and forms of the register, for several places
``gallery``   every shared widget in every state, for looking at

The places are ``today``, ``bench``, ``tools``, ``references``, ``setting``, ``desk`` and ``records``, one package each: none
loads another. To add a place: a package with a widget that follows ``place.Place``, and a row in ``places``.
"""
