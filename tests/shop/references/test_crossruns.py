"""A reference held against another over its range: what is kept, what agrees, and what it takes to trust one."""

from dataclasses import replace

import pytest
from scipy.stats import t
from sqlalchemy import select

from reckoner.core.errors import InputRefused
from reckoner.core.history.crosschecks import agreement
from reckoner.core.quantities.units import N_M
from reckoner.core.reference.certificate import CertificatePoint
from reckoner.shop.facts.judged import newest_certificate, reference_facts
from reckoner.shop.people.authorship import FieldRefused, ShopRefused
from reckoner.shop.references import crossruns
from reckoner.shop.references.crossruns import ComparedReference
from reckoner.shop.references.trust import lacks_for_trust, trust
from reckoner.shop.register.rows import edit
from reckoner.shop.setups import equipment
from reckoner.store.reader import reader_of
from reckoner.store.schema import Certificate, CrossCheck, CrossReading, Reference
from reckoner.store.terms import CrossBy, RegisterKind
from tests.support.runs import TODAY


def reference(session, number):
    return session.scalar(select(Reference.id).where(Reference.number == number))


def other(session, reference_id, name):
    return next(o for o in crossruns.others(session, reference_id, TODAY) if o.name == name)


def begun(session, act, number="PM-9", against="PM-5", targets=(40.0, 90.0, 150.0)):
    found = reference(session, number)
    return crossruns.begin(session, found, other(session, found, against), targets, act)


def read_all(session, state, act, factor):
    while state.next is not None:
        state = crossruns.read(session, state.id, state.next, state.next * factor, state.next, act)
    return state


def test_what_both_show_is_kept_at_once_and_its_mean_goes_into_the_chart(demo, act):
    with demo.session() as session:
        state = begun(session, act, "PM-4", "PM-5", (40.0, 80.0))
        crossruns.read(session, state.id, 40.0, 40.1, 40.0, act)
    with demo.session() as session:  # another program, another day: it stands as it was left
        state = crossruns.open_of(session, reference(session, "PM-4"))
        assert [(r.target, r.indicated) for r in state.readings] == [(40.0, 40.1)]
        known = state.other.points
        error = next(p.error for p in known if p.torque == 40.0) if any(p.torque == 40.0 for p in known) else None
        assert state.readings[0].actual == pytest.approx(40.0 / (1 + (error or 0.0)), rel=2e-3)
        with pytest.raises(ShopRefused, match="under way already"):
            begun(session, act, "PM-4", "PM-5", (40.0,))
        state = read_all(session, state, act, 1.002)
        state = crossruns.close(session, state.id, "", act)
        assert state.closed
        check = session.scalar(select(CrossCheck).where(CrossCheck.cross_run_id == state.id))
        whole = [r.indicated / r.actual - 1 for r in state.readings]
        assert check.indicated / check.actual - 1 == pytest.approx(sum(whole) / len(whole), abs=2e-4)
        with pytest.raises(ShopRefused, match="This check is over"):
            crossruns.read(session, state.id, 40.0, 40.1, 40.0, act)
        assert crossruns.open_of(session, state.reference.id) is None


@pytest.mark.parametrize(
    ("target", "indicated", "shown", "field", "why"),
    [
        (40.0, 40.0, 90.0, "shown", "not near the torque"),
        (40.0, 90.0, 40.0, "indicated", "cannot be of the same torque"),
        (40.0, 40.0, None, "shown", "what the other one shows"),
        (40.0, 40.0, 5000.0, "shown", "covers"),
    ],
)
def test_what_cannot_be_of_one_torque_is_refused_at_its_field(demo, act, target, indicated, shown, field, why):
    with demo.session() as session:
        state = begun(session, act)
        with pytest.raises(FieldRefused, match=why) as refused:
            crossruns.read(session, state.id, target, indicated, shown, act)
        assert refused.value.field == field
        assert session.scalar(select(CrossReading.id).where(CrossReading.cross_run_id == state.id)) is None


def test_a_check_is_begun_only_where_both_are_known(demo, act):
    with demo.session() as session:
        nine = reference(session, "PM-9")
        meter = other(session, nine, "PM-5")
        for targets, why in (((), "at which torques"), ((400.0,), "ends at 150"), ((30.0,), "known from 40")):
            with pytest.raises(FieldRefused, match=why):
                crossruns.begin(session, nine, meter, targets, act)
        names = [o.name for o in crossruns.others(session, nine, TODAY)]
        assert "PM-9" not in names
        assert any(o.by is CrossBy.TOOL for o in crossruns.others(session, nine, TODAY))
        weights = equipment.weights(reader_of(session))
        stamps = tuple(replace(w, uncertainty=None) for w in weights)
        hung = crossruns.on_an_arm(stamps, (9.80665, 0.002), 0.6, 0.0003, (40.0,))
        with pytest.raises(ShopRefused, match="A stamp alone says nothing"):
            crossruns.begin(session, nine, hung, (40.0,), act)
        with pytest.raises(ShopRefused, match="Nothing hangs for 149"):
            crossruns.begin(
                session, nine, crossruns.on_an_arm(weights, (9.8, 0.002), 0.1, 0.0003, (149.0,)), (149.0,), act
            )


def test_a_meter_that_applies_its_certificate_itself_is_not_corrected_twice(demo, act):
    with demo.session() as session:
        plain = other(session, reference(session, "PM-9"), "PM-5")
        assert any(p.error for p in plain.points)
        edit(session, RegisterKind.REFERENCE, reference(session, "PM-5"), {"corrected": True}, act)
        itself = other(session, reference(session, "PM-9"), "PM-5")
        assert [p.error for p in itself.points] == [0.0] * len(plain.points)


def test_a_good_tool_says_its_torque_as_it_was_left(demo, act):
    """A tool that shows 2 % too much at 60 N·m is under 60/1.02 when it shows 60."""
    tool = ComparedReference(
        CrossBy.TOOL, "B-1", (CertificatePoint(20.0, 0.02, 0.01), CertificatePoint(60.0, 0.02, 0.01)), 0.5
    )
    actual, unsure = tool.actual(60.0, 60.0)
    assert actual == pytest.approx(60 / 1.02)
    assert unsure == pytest.approx((0.01**2 + (0.5 / 60 / 3**0.5) ** 2) ** 0.5)
    assert tool.actual(19.7, 19.7)[0] == pytest.approx(19.7 / 1.02)  # the load missed the last point by a little
    with pytest.raises(InputRefused, match="covers 20 to 60"):
        tool.actual(15.0, 15.0)
    with demo.session() as session:
        tools = crossruns.good_tools(reader_of(session), TODAY)
        assert tools
        assert all(len(t.points) > 1 and t.points[0].expanded_uncertainty > 0 for t in tools)


def test_trust_takes_three_torques_over_the_range_three_readings_each_and_little_doubt(demo, act):
    with demo.session() as session:
        few = read_all(session, begun(session, act, targets=(90.0,)), act, 1.0)
        assert [w.split(" ")[0] for w in lacks_for_trust(few, N_M)] == ["3", "a", "a"]
        with pytest.raises(ShopRefused, match="Keep the check first"):
            trust(session, few.id, act)
        few = crossruns.close(session, few.id, "", act)
        with pytest.raises(ShopRefused, match="does not suffice"):
            trust(session, few.id, act)
        state = read_all(session, begun(session, act), act, 1.012)
        assert lacks_for_trust(state, N_M) == ()
        crossruns.close(session, state.id, "", act)
        trust(session, state.id, act)
        row = session.get_one(Reference, state.reference.id)
        facts = reference_facts(row, newest_certificate(row, TODAY))
        assert facts.proven
        for point, (target, found) in zip(facts.points, state.found, strict=True):
            assert (point.torque, point.error) == (target, found.difference)
            assert point.expanded_uncertainty == found.expanded_uncertainty
        assert session.scalar(select(Certificate.laboratory).where(Certificate.reference_id == row.id)).startswith(
            "this shop"
        )
        loose = replace(state, readings=tuple(replace(r, uncertainty=0.02) for r in state.readings))
        assert any(w.startswith("less doubt") for w in lacks_for_trust(loose, N_M))


def test_a_check_that_is_given_up_leaves_its_readings_struck_and_nothing_in_the_chart(demo, act):
    with demo.session() as session:
        state = begun(session, act)
        state = crossruns.read(session, state.id, 40.0, 40.1, 40.0, act)
        with pytest.raises(ShopRefused, match="why it is given up"):
            crossruns.give_up(session, state.id, " ", act)
        crossruns.give_up(session, state.id, "called away", act)
        assert [r.struck for r in crossruns.state_of(session, state.id).readings] == ["called away"]
        assert crossruns.open_of(session, state.reference.id) is None
        assert begun(session, act).id != state.id
        with pytest.raises(ShopRefused, match="Nothing was read yet"):
            crossruns.close(session, state.id, "", act)


def test_the_doubt_of_few_readings_is_students_and_two_that_cannot_both_be_right_are_told():
    close = agreement([40.1] * 3, [40.0] * 3, 0.002, 0.0, 0.005)
    assert close.expanded_uncertainty == pytest.approx(0.002)
    assert close.normalised == pytest.approx(0.0025 / (0.002**2 + 0.005**2) ** 0.5)
    assert close.agrees
    assert agreement([40.3] * 3, [40.0] * 3, 0.002, 0.0, 0.005).agrees is False
    assert agreement([40.1], [40.0], 0.002).agrees is None
    scattered = agreement([40.0, 40.4, 40.2], [40.0] * 3, 0.0)
    assert scattered.expanded_uncertainty == pytest.approx(4.527 * 0.005 / 3**0.5, rel=1e-2)  # t at ν = 2, 95.45 %
    both = agreement([40.0, 40.4, 40.2], [40.0] * 3, 0.006)
    by_scatter = 0.005 / 3**0.5
    u = (0.003**2 + by_scatter**2) ** 0.5
    freedom = 2 * (u / by_scatter) ** 4  # Welch and Satterthwaite: only the scatter has few
    assert both.expanded_uncertainty == pytest.approx(u * t.ppf((1 + 0.9545) / 2, freedom), rel=1e-4)
    with pytest.raises(InputRefused, match="has 1 values for 2"):
        agreement([1.0, 2.0], [1.0], 0.01)
