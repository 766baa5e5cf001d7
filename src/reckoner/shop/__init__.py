"""What the shop does, without Qt: the register, standings, runs on the bench, due dates.

A command takes an open session and an ``Act``, who does it and when; a query takes a reader, or a session where it needs the
typed models. They return frozen records, and raise ``ShopRefused`` with a sentence that a technician can act on. A
command's docstring ends with the kinds of ``Change`` that it tells and the right that it asks for.

``people``      who does something and when, rights, signatures
``facts``       what is known of a tool and its reference
``register``    people, models, tools: versioned rows, lists, sheets, finding
``references``  what tools are compared with, and their checks
``setups``      each kind of reference's typed set-up, and what it is worth
``procedures``  how a tool is compared with each kind of reference; ``procedure`` is what they tell a run
``runs``        a run on the bench, from its plan to its signature
``events``      what happens to a tool, and what it is after all of it
``planning``    what is to be done, today and in a year; ``intervals`` how often
``using``       a tool used at the joint, and the desk that lends it
``papers``      what is handed to others
``records``     the lists of the Records place, and files handed on
``words``       every sentence
``changes``     what a unit of work changed, as values
``opening``     a shop's database, ready for use
"""
