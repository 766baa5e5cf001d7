"""What the shop does, without Qt: the register, runs on the bench, holds, due dates.

Every function takes an open session; one that changes something also takes an ``Act``, who does it and when. They
return frozen records, and raise ``ShopRefused`` with a sentence that a technician can act on.

``acts``        who and when, and the audit trail
``facts``       the core's records built from the store's rows
``intake``      a register file into the database
``register``    tools as cards and sheets, searching
``agenda``      what is due, held, unfinished: the Today place
``references``  which meter suits a tool, and why another does not
``inspection``  the look-over list of each mechanism
``planning``    what a run is to do: the proposal, and where a change misleads
``run``         the state of a run: steps and what each still wants
``runload``     that state from the records
``bench``       the changes a run goes through, each committed before it is shown
``adjusting``   turns of the screw, as left
``signing``     outcomes, the signature, amendments, characterisations kept
``recompute``   signed runs recomputed from their readings
``derivation``  a point's whole derivation with its own values
``equipment``   completing the register at the bench; a reference's link
``preferences`` choices remembered, such as a muted sound
``wording``     results as sentences
"""
