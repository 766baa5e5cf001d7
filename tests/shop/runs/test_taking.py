"""What is taken from a meter's pull, and the trace that belongs to it."""

from dataclasses import replace

import numpy as np
from sqlalchemy import func, select

from reckoner.meters.pull import Pull
from reckoner.shop.runs import taking
from reckoner.store.schema import Trace
from tests.support.runs import prepared, tool_id


def test_a_trace_is_kept_once_with_the_reading_of_its_pull_and_of_no_other(demo, act):
    with demo.session() as session:
        before = session.scalar(select(func.count()).select_from(Trace))
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        taking.observe(session, run.id, replace(taking.typed(40.2), pull="first"), act)
        pull = Pull("first", 40.2, True, 44.0, None, np.linspace(0.0, 40.2, 50), 1000.0)
        assert taking.keep_trace(session, run.id, replace(pull, id="another"), act) is None
        kept = taking.keep_trace(session, run.id, pull, act)
        assert kept is not None
        assert taking.keep_trace(session, run.id, pull, act) is None  # sent twice
        assert session.scalar(select(func.count()).select_from(Trace)) == before + 1
