"""A database of each released version opens here with everything in it, and its signed numbers stay what they were."""

import sqlite3
from datetime import date
from pathlib import Path

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext

from reckoner.core.budget import Effect
from reckoner.core.trace import Fault
from reckoner.shop import checking, projection
from reckoner.shop.opening import open_shop
from reckoner.shop.register import listing
from reckoner.shop.register.cards import cards
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs.loading import load
from reckoner.shop.runs.opening import open_runs
from reckoner.shop.runs.recompute import recompute
from reckoner.shop.runs.records import FOUND, Phase
from reckoner.shop.runs.steps import Step
from reckoner.store.database import FILE
from reckoner.store.guards import record_tables, standing_guards
from reckoner.store.reader import reader_of
from reckoner.store.schema import Base
from reckoner.store.terms import LinkKind, PhaseKind

SAMPLES = Path(__file__).parent / "samples"


@pytest.fixture
def upgraded(tmp_path):
    with sqlite3.connect(tmp_path / FILE) as connection:
        connection.executescript((SAMPLES / "0002.sql").read_text())
    connection.close()
    database = open_shop(tmp_path)
    yield database
    database.close()


def test_signed_numbers_of_the_second_version_are_recomputed_as_they_were_signed(upgraded):
    with upgraded.session() as session:
        found = {r.tool: (r.numbers, r.otherwise) for r in recompute(session)}
        assert found == {"W-1": (36, ()), "W-2": (18, ()), "B-1": (36, ())}
    with upgraded.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert len(standing_guards(connection)) == 2 * len(record_tables())


def test_phases_places_faults_and_zeros_of_the_second_version_become_types(upgraded):
    with upgraded.session() as session:
        adjusted, measured = load(session, 2), load(session, 1)
        assert [s.phase for s in adjusted.all_series] == [
            *[FOUND] * 3, Phase(PhaseKind.ADJUST, 1), *[Phase(PhaseKind.LEFT, 1)] * 3,
        ]  # fmt: skip
        assert adjusted.all_series[3].turn == 0.25
        first = adjusted.found[0]
        assert [o.struck for o in first.observations] == ["pulled too fast", *[""] * 5]
        assert first.observations[0].faults == (Fault.TOO_FAST, Fault.JERK)
        assert adjusted.zeros.after == 0.0
        assert adjusted.facts.measured.effects.interface == pytest.approx(0.3)
        assert adjusted.facts.measured.on == date(2026, 3, 2)
        assert [(s.effect, s.place) for s in measured.all_series][1:3] == [
            (Effect.LOADING_POINT, 1),
            (Effect.INTERFACE, 0),
        ]
        beam = load(session, 4)
        assert (beam.zeros.pointer_before, beam.zeros.pointer_after) == (0.0, 0.0)


def test_standings_and_open_runs_of_the_second_version_are_worked_out(upgraded):
    with upgraded.session() as session:
        assert open_runs(session) == {3: 5, 2: 6}
        assert load(session, 6).step is Step.AS_FOUND
        assert load(session, 5).amends == 4
        found = {c.tool.number: c.standing for c in cards(reader_of(session))}
        assert found["W-1"].loan.to == "Bay crew"
        assert found["W-1"].due.on == date(2027, 3, 3)
        assert found["W-2"].held.startswith("as found: Clicks 10.0")
        assert found["W-2"].check_event_id is not None
        assert [h.what for h in sheet(reader_of(session), 1).happenings] == [
            "Lent",
            "Full run",
            "Adjusted",
            "Characterisation",
        ]
        assert projection.rebuild(session) == 0


@pytest.mark.parametrize("version", ["0003", "0004", "0005", "0006", "0007", "0008", "0009", "0010"])
def test_records_of_later_versions_are_linked_and_listed_as_they_are(tmp_path, version):
    with sqlite3.connect(tmp_path / FILE) as connection:
        connection.executescript((SAMPLES / f"{version}.sql").read_text())
    connection.close()
    database = open_shop(tmp_path)
    with database.session() as session:
        walked = list(checking.walk(session))
        assert [one for one in walked if isinstance(one, checking.Finding)] == []
        kinds = {LinkKind.RUN, LinkKind.EVENT, LinkKind.AUDIT, LinkKind.VERSION, LinkKind.CERTIFICATE}
        assert {link.kind for link in walked} == kinds
        over = session.connection().exec_driver_sql(
            "SELECT (SELECT count(*) FROM signature) + (SELECT count(*) FROM abandonment)"
        )
        assert sum(link.kind is LinkKind.RUN for link in walked) == over.scalar()
        assert next(c for c in cards(reader_of(session)) if c.tool.number == "W-1").held == "from the bench"
        assert projection.rebuild(session) + listing.rebuild(session) == 0
        assert {r.otherwise for r in recompute(session)} == {()}
    with database.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []
        assert len(standing_guards(connection)) == 2 * len(record_tables())
    database.close()
