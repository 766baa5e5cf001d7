"""What comes next at the meter that is set up: due, here, fit for it, and not the tool that was just tested."""

from datetime import timedelta

from reckoner.shop.events.recording import record_event
from reckoner.shop.planning.idlebench import idle_bench
from reckoner.shop.planning.nextup import next_up
from reckoner.shop.register import registerfile
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import opening
from reckoner.shop.using.lending import lend
from reckoner.store.database import Database
from reckoner.store.reader import reader_of
from reckoner.store.terms import EventKind
from tests.support.runs import REGISTER, TODAY, later, prepared, tool_id

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


def test_the_idle_bench_offers_what_was_begun_what_fits_the_reference_used_last_and_what_was_given_up(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        found = idle_bench(session, TODAY)
        assert (found.first.tool.number, found.reference, found.given_up) == ("HC-0417", "PM-5", None)
        assert "HC-0417" in [card.tool.number for card in found.begun]
        assert not {c.tool.id for c in found.fitting} & {c.tool.id for c in found.others}
        assert [c.tool.id for c in found.fitting] == [
            c.tool.id for c in next_up(reader_of(session), run.reference, run.tool.id, TODAY).tools[:6]
        ]
        due = [c for c in found.others if c.standing.due is not None and c.standing.due.on >= TODAY]
        lend(session, [due[0].tool.id], "Line 2 crew", None, (), act)
        session.flush()
        assert due[0].tool.id not in {c.tool.id for c in idle_bench(session, TODAY).others}
        opening.give_up(session, run.id, "the wrong one", act)
        found = idle_bench(session, TODAY)
        assert "HC-0417" not in [card.tool.number for card in found.begun]
        assert (found.given_up.card.tool.number, found.given_up.why) == (
            "HC-0417", "on 24 Nov 2026 by R. K.: the wrong one",
        )  # fmt: skip
        opening.open_run(session, run.tool.id, act)
        assert idle_bench(session, TODAY).given_up is None  # it was put on again


def test_the_idle_bench_of_a_shop_without_a_run_offers_what_is_due_at_all(tmp_path, act):
    database = Database(tmp_path)
    with database.session() as session:
        assert idle_bench(session, TODAY).first is None
        take_in(session, registerfile.parse(REGISTER), act.at)
    with database.session() as session:
        found = idle_bench(session, TODAY)
        assert (found.first.tool.number, found.reference, len(found.others)) == ("W-1", "", 1)
    database.close()
