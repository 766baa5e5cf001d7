"""A run on the bench, from its plan to its signature.

``kinds``        one policy record for each kind of run
``records``      what was taken, as loaded; frozen
``state``        a run as it stands: records, facts, procedure
``document``     the facts a run is judged by, as one JSON document kept with it
``rows``         a statement for each table; ``loading`` makes the state of them
``needs``        what a step can want; ``steps`` where a run stands
``judging``      each verdict worked out once; ``derivation`` a point's, with its own values
``planning``     what a run is to do: the proposal, and where a change misleads
``opening``      a run begins; ``setting_up``, ``taking``, ``adjusting``: what a person may do, each one unit of work
``asking``       readings that are asked about before they count
``outcomes``     how it can end; ``signing`` ends it, ``amending`` replaces it
``inspection``   the look-over list of each mechanism
``recomputing``  signed runs recomputed from their observations

To add a kind of run: ``store.terms.RunKind``, a row in ``kinds.POLICIES``, what it concludes in ``outcomes``.
"""
