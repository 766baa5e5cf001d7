"""A comparison: A, B, and A once more; nothing of the tool's standing hangs on it."""

from dataclasses import replace

import pytest
from sqlalchemy import select

from reckoner.core.decision.states import State
from reckoner.shop.papers.certificates import certificate_of
from reckoner.shop.people.authorship import ShopRefused
from reckoner.shop.register.cards import card
from reckoner.shop.register.sheet import sheet
from reckoner.shop.runs import amending, opening, outcomes, signing, taking
from reckoner.shop.runs.judging import beside_first, judged
from reckoner.shop.runs.outcomes import conclude
from reckoner.shop.runs.planning import propose
from reckoner.shop.runs.sides import CONTRASTS, Side, SidesPlan, from_document, written
from reckoner.shop.words.comparisons import scatter_words, side_name, sides_derivation, sides_sentence
from reckoner.store.chain import walk
from reckoner.store.reader import reader_of
from reckoner.store.schema import Signature
from reckoner.store.terms import Contrast, Outcome, RunKind
from reckoner.ui.bench.instructions import instruct
from tests.support.runs import TODAY, closed, later, ready, tool_id

HC = "HC-0417"


def plain(words):
    return words.replace("\u202f", " ")


def taking_all(session, run, act, *, factors=(1.0, 1.0, 1.0), scatter=(0.0, 0.2, -0.2, 0.1, -0.1)):
    """Readings of each side at its factor."""
    while run.current is not None:
        held_by_two = run.sides.places[run.current.place].adapter is not None
        assert ("A second hand holds the adapter's head" in instruct(run)) is held_by_two
        place, done = run.current.place, len(run.current.pairs)
        torque = (run.current.target + scatter[done]) * factors[place]
        run = taking.observe(session, run.id, taking.typed(torque * run.reference.correction(run.current.target)), act)
    return run


def with_adapter(length=0.045):
    proposed = SidesPlan.of(Contrast.ADAPTER)
    return replace(proposed, second=replace(proposed.second, adapter=length))


def test_an_adapter_is_proven_by_measurement_beside_its_sum(demo, act):
    with demo.session() as session:
        before = card(reader_of(session), tool_id(demo, HC)).standing
        run = ready(session, tool_id(demo, HC), act, RunKind.COMPARE, sides=with_adapter())
        assert [side_name(run, s.place) for s in run.found] == ["Bare", "With the adapter", "Bare again"]
        assert {s.target for s in run.found} == {120.0}
        f = run.sides.expected(run.tool)
        assert f == pytest.approx((run.tool.lever + 0.045) / run.tool.lever)
        assert sides_sentence(run).startswith("Each side wants two")
        run = taking_all(session, run, act, factors=(0.99, 0.99 * f * 1.001, 0.99))
        assert sides_sentence(run).endswith("as computed")
        assert f"computed {f:.4f}" in sides_sentence(run)
        assert beside_first(run, run.found[1])[0] == pytest.approx(0.001, abs=1e-4)
        assert plain(scatter_words(run)) == "Scatter: bare 0.12 %, with the adapter 0.13 %"
        lines = {line.what: line for line in sides_derivation(run)}
        assert (
            lines["Computed, lengths in mm"].values
            == "[(412 − 30)/412 · (412 + 45·cos 0°)/(412 − 30)] / [(412 − 30)/412 · (412)/(412 − 30)]"
        )
        assert "did not move" in lines["Bare, held against itself"].result
        assert lines["The ratio"].result.replace(" ", "").startswith("1.1103")
        assert judged(run).verdict.state is State.COMPARED  # no verdict, whatever the deviation
        assert conclude(run) is None
        assert [c.outcome for c in outcomes.choices(run, TODAY)] == [Outcome.COMPARISON]
        run = closed(session, run, act)
        signed = signing.sign(session, run.id, later(act, 1))
        assert (signed.signature.outcome, signed.signature.due) == (Outcome.COMPARISON, None)
        assert session.scalar(select(Signature.sentence).where(Signature.run_id == signed.id)) == sides_sentence(signed)
        assert card(reader_of(session), tool_id(demo, HC)).standing == before
        assert sheet(reader_of(session), tool_id(demo, HC)).card.standing == before
        with pytest.raises(ShopRefused, match="A comparison has no certificate"):
            certificate_of(session, signed)
        copy = amending.amend(session, signed.id, "the length was wrong", later(act, 2))
        assert copy.sides == run.sides
    with demo.engine.connect() as connection:
        assert not [f for _, found in walk(connection) for f in found]


def test_where_the_first_side_moved_nothing_is_concluded(demo, act):
    with demo.session() as session:
        run = ready(session, tool_id(demo, HC), act, RunKind.COMPARE, sides=with_adapter())
        run = taking_all(session, run, act, factors=(1.0, 1.1, 1.006))
        assert "“bare” differ by 0.6 % (+0.4 % to +0.8 %)" in plain(sides_sentence(run))
        assert "nothing is concluded" in sides_sentence(run)


@pytest.mark.parametrize(
    ("contrast", "factor", "said"),
    [
        (Contrast.PEOPLE, 1.0, "The other reads the same as one person"),
        (Contrast.PEOPLE, 1.02, "The other reads 2.0 % higher than one person"),
        (Contrast.CHANGE, 0.97, "After reads 3.0 % lower than before"),
    ],
)
def test_two_that_should_be_alike(demo, act, contrast, factor, said):
    with demo.session() as session:
        run = ready(session, tool_id(demo, HC), act, RunKind.COMPARE, sides=SidesPlan.of(contrast))
        assert len(run.found) == (2 if contrast is Contrast.CHANGE else 3)
        run = taking_all(session, run, act, factors=(1.0, factor, 1.0))
        assert plain(sides_sentence(run)).startswith(said)
        assert sides_sentence(run).endswith("no difference that matters" if factor == 1 else "different")


def test_what_should_come_out_is_known_where_the_lengths_are(demo, act):
    with demo.session() as session:
        tool = propose(session, tool_id(demo, HC), TODAY, RunKind.COMPARE).tool
    length, p = tool.lever, tool.pivot
    assert SidesPlan.of(Contrast.ADAPTER).expected(tool) is None  # its length is not known
    assert SidesPlan.of(Contrast.PEOPLE).expected(tool) == 1
    assert SidesPlan.of(Contrast.GRIPS).expected(tool) is None
    grips = SidesPlan(Contrast.GRIPS, Side("at the mark"), Side("nearer", hand=length - 0.05))
    assert grips.expected(tool) == pytest.approx((length - p) / length * (length - 0.05) / (length - 0.05 - p))
    two = SidesPlan(Contrast.ADAPTERS, Side("ring", 0.03), Side("crow-foot", 0.045))
    assert two.expected(tool) == pytest.approx((length + 0.045) / (length + 0.03))
    assert from_document(written(two)) == two
    assert set(Contrast) == set(CONTRASTS)


@pytest.mark.parametrize(
    ("sides", "said"),
    [
        (SidesPlan(Contrast.PEOPLE, Side("A. B."), Side("a. b.")), "same name"),
        (SidesPlan(Contrast.PEOPLE, Side("A. B."), Side(" ")), "Name both sides"),
        (SidesPlan(Contrast.PEOPLE, Side("A. B."), Side("x" * 41)), "too long a name"),
        (SidesPlan(Contrast.GRIPS, Side("mark"), Side("near", hand=0.01)), "beyond the pivot"),
        (SidesPlan(Contrast.GRIPS, Side("mark"), Side("far", hand=5.0)), "no hand pulls that far out"),
        (SidesPlan(Contrast.ADAPTER, Side("bare"), Side("with it", 10_000.0)), "no adapter is longer than the wrench"),
    ],
)
def test_sides_that_cannot_be_compared_are_refused(demo, act, sides, said):
    with demo.session() as session:
        plan = replace(propose(session, tool_id(demo, HC), TODAY, RunKind.COMPARE).plan, sides=sides)
        with pytest.raises(ShopRefused, match=said):
            opening.open_run(session, tool_id(demo, HC), act, plan)
        two_points = replace(plan, sides=SidesPlan.of(Contrast.PEOPLE), points=(40.0, 120.0))
        with pytest.raises(ShopRefused, match="at one point"):
            opening.open_run(session, tool_id(demo, HC), act, two_points)
