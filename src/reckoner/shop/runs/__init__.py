"""A run on the bench, from its plan to its signature.

``kinds``       one policy record for each kind of run
``records``     what was taken, as loaded; frozen
``state``       a run as it stands: records, facts, procedure
``document``    the facts a run is judged by, as one JSON document kept with it
``loading``     the state from the records
``needs`` ``steps``   where a run stands and what each step wants
``judging``     each verdict worked out once
``planning``    what a run is to do: the proposal, and where a change misleads
``opening`` ``setting_up`` ``taking`` ``adjusting``   what a person may do, each one unit of work with its audit line
``outcomes`` ``signing`` ``amending`` ``characterising``   how it ends
``inspection``  the look-over list of each mechanism
``recompute``   signed runs recomputed from their observations
``derivation``  a point's whole derivation with its own values
"""
