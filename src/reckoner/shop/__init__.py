"""What the shop does, without Qt: the register, standings, runs on the bench, due dates.

Every function takes an open session; one that changes something also takes an ``Act``, who does it and when. They
return frozen records, and raise ``ShopRefused`` with a sentence that a technician can act on.

``acts``        who and when, and the audit trail
``changes``     what a unit of work changed, as values
``events``      what can happen to a tool: words, consequence, what ends it
``standing``    what a tool is and why; its projection
``facts``       the core's records built from the store's rows
``register``    people, models, tools, references: versioned rows, cards, sheets, finding
``agenda``      what is due, held, unfinished: the Today place
``procedures``  how a tool is compared with each kind of reference
``runs``        a run on the bench, from its plan to its signature
``opening``     a shop's database, ready for use
``wording``     every sentence and label about results
"""
