"""What comes next at the meter that is set up: due, here, fit for it, and not the tool that was just tested."""

from datetime import timedelta

from reckoner.shop.events.recording import record_event
from reckoner.shop.planning.nextup import next_up
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind
from tests.support.runs import TODAY, later, prepared, tool_id

SOON = timedelta(days=31)


def test_the_next_tools_are_due_here_and_fit_the_meter(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        reader = reader_of(session)
        found = next_up(reader, run.reference, run.tool.id, TODAY)
        first = found.tools[0]
        assert found.words.startswith("PM-5 is set up; ")
        assert first.tool.number in found.words
        for card in found.tools:
            assert card.tool.kind.maximum <= run.reference.maximum
            assert card.standing.due is None or card.standing.due.on <= TODAY + SOON  # or it was never tested
            assert card.loan is None
        assert run.tool.id not in {card.tool.id for card in found.tools}
        assert first.tool.id not in {c.tool.id for c in next_up(reader, run.reference, first.tool.id, TODAY).tools}
        record_event(session, first.tool.id, EventKind.HELD, "looked odd", later(act, 1))
        session.flush()
        assert first.tool.id not in {c.tool.id for c in next_up(reader, run.reference, run.tool.id, TODAY).tools}
