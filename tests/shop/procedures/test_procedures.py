"""What a torque meter's procedure says: which meter suits, what an observation is, when it may not decide."""

from dataclasses import replace
from datetime import date

import pytest

from reckoner.core.errors import Refused
from reckoner.core.reference.certificate import CertificatePoint
from reckoner.core.requirements.tooltypes import Direction
from reckoner.shop.procedure import Distrust
from reckoner.shop.procedures import PROCEDURES
from reckoner.shop.procedures.meter import MeterProcedure
from reckoner.shop.procedures.trips import next_rung, rung_detail
from reckoner.shop.runs import amending, setting_up, signing
from reckoner.shop.runs.judging import judged
from reckoner.shop.runs.loading import room_fits
from reckoner.shop.runs.records import FOUND, NOTHING, ObservationState, SeriesState
from reckoner.shop.runs.taking import typed
from reckoner.shop.setups.hanging import HungAt, HungWeight
from reckoner.store.terms import ObservationKind, ReferenceKind, Source
from tests.support.clock import NOW
from tests.support.runs import TODAY, later, prepared, read_all, tool_id

METER = PROCEDURES[ReferenceKind.METER]
POINTS = (40.0, 120.0, 200.0)


@pytest.fixture
def run(demo, act):
    with demo.session() as session:
        return prepared(session, tool_id(demo, "HC-0417"), act)


def weighed(run, **changed):
    return METER.weigh(replace(run.reference, **changed), run.tool, run.rules, TODAY, POINTS)


def test_each_reason_against_a_meter_is_said_once(run):
    covering = (CertificatePoint(10.0, 0.0, 0.002), CertificatePoint(300.0, 0.0, 0.004))
    good = weighed(run, minimum=10.0, maximum=250.0 - 50, points=covering)
    assert (good.against, good.worst_uncertainty) == ((), 0.004)
    partly = weighed(run, minimum=10.0, maximum=200.0, points=(CertificatePoint(100.0, 0.0, 0.002), covering[1]))
    assert partly.against == ("its certificate does not cover 40\u202fN·m",)
    far = weighed(
        run,
        minimum=10.0,
        maximum=100.0,
        points=(CertificatePoint(10.0, 0.0, 0.002), CertificatePoint(90.0, 0.0, 0.002)),
    )
    assert [a[:10] for a in far.against] == ["it reaches"]  # and not that its certificate ends too
    none = weighed(run, minimum=10.0, maximum=200.0, points=(), due=None)
    assert (none.against, none.proven, none.worst_uncertainty) == ((), False, 1.0)  # the last to be taken
    unsure = weighed(run, minimum=10.0, maximum=200.0, points=(CertificatePoint(10.0, 0.0, 0.0101), covering[1]))
    assert "above the 1.00" in unsure.against[0]
    edge = weighed(run, minimum=10.0, maximum=200.0, points=(CertificatePoint(10.0, 0.0, 0.01), covering[1]))
    assert edge.suits  # a quarter of ±4 %, just so
    assert weighed(run, minimum=10.0, maximum=200.0, points=covering, due=TODAY).suits
    assert not weighed(run, minimum=10.0, maximum=200.0, points=covering, due=date(2026, 11, 23)).suits


@pytest.mark.parametrize(
    ("temperature", "humidity", "fits"),
    [(18, 0.5, True), (28, 0.9, True), (17.9, 0.5, False), (28.1, 0.5, False), (20, 0.901, False)],
)
def test_a_room_on_its_bounds_is_fit(run, temperature, humidity, fits):
    assert room_fits(temperature, humidity, run.rules) is fits


def test_an_observation_is_a_pair_only_when_it_is_a_value(run):
    def seen(number, kind, torque, tool_value=None):
        return ObservationState(number, run.opened, kind, torque, Source.TYPED, tool_value=tool_value)

    observations = (
        seen(1, ObservationKind.VALUE, 39.5),
        seen(2, ObservationKind.NO_SIGNAL, 50.0),
        seen(3, ObservationKind.VALUE, 39.0, tool_value=39.2),
        seen(4, ObservationKind.CLICKED, None),
    )
    assert METER.pairs(40.0, observations, NOTHING, 1.0) == ((40.0, 39.5, 1), (39.2, 39.0, 3))
    assert MeterProcedure().pairs(40.0, observations[:1], NOTHING, 1.01)[0].deviation == pytest.approx(40.4 / 39.5 - 1)


@pytest.mark.parametrize(
    ("torque", "admitted"), [(0.1, True), (600.0, True), (0.0, False), (601.0, False), (float("nan"), False)]
)
def test_a_value_that_no_pull_of_the_tool_can_be_is_refused(run, torque, admitted):
    if admitted:
        assert METER.admit(run, run.series[0], typed(torque)).torque == torque
    else:
        with pytest.raises(Refused, match=r"cannot be a pull|not a finite number"):
            METER.admit(run, run.series[0], typed(torque))


@pytest.mark.parametrize(
    ("before", "after", "moved"), [(0.3, 0.3, False), (0.3, 0.35, False), (0.0, 0.3, True), (0.3, 0.0, True)]
)
def test_a_zero_has_moved_by_the_difference_of_the_two_looks(run, before, after, moved):
    reference = replace(run.reference, zero_tolerance=0.1)
    zeros = replace(run.zeros, before=before, after=after)
    distrust = METER.distrust(replace(run, zeros=zeros, facts=replace(run.facts, reference=reference)), TODAY)
    assert distrust is (Distrust.ZERO_MOVED if moved else None)


def test_an_amendment_is_trusted_as_of_the_day_it_amends(demo, act):
    """A certificate that ends between the signature and the amendment decided then, and decides still."""
    with demo.session() as session:
        first = read_all(session, prepared(session, tool_id(demo, "HC-0417"), act), act, 0.99)
        signing.sign(session, first.id, act)
        after = later(act, 24 * 500)
        copy = amending.amend(session, first.id, "one value was misread", after)
        assert copy.reference.due < after.at.date()
        assert judged(copy).distrust is None
        fresh = replace(copy, day=after.at.date())
        assert judged(fresh).distrust is Distrust.CERTIFICATE_ENDED
        signed = signing.sign(session, copy.id, later(after, 1))
        assert signed.signature.due == date(2027, 11, 24)


def test_a_line_that_is_not_fine_is_settled_by_its_reason_and_by_nothing_less(demo, act):
    with demo.session() as session:
        run = prepared(session, tool_id(demo, "HC-0417"), act)
        line = run.inspection[0].line
        refused = setting_up.look_over(session, run.id, line, False, "", later(act, 1))
        assert (refused.inspection[0].settled, refused.step.value) == (False, "look over")
        accepted = setting_up.look_over(session, run.id, line, False, "light dirt", later(act, 1))
        assert (accepted.inspection[0].settled, accepted.step.value) == (True, "as found")
        assert not replace(accepted.inspection[0], fine=None).settled


@pytest.mark.parametrize(
    ("answers", "following"),
    [
        ([], 30),  # what hangs at the start
        ([(30, ObservationKind.SILENT)], 34),  # outwards, further each time
        ([(30, ObservationKind.SILENT), (34, ObservationKind.SILENT)], 42),
        ([(30, ObservationKind.SILENT), (34, ObservationKind.SILENT), (42, ObservationKind.SILENT)], 58),
        ([(30, ObservationKind.CLICKED), (26, ObservationKind.CLICKED)], 18),
        ([(30, ObservationKind.SILENT), (34, ObservationKind.CLICKED)], 32),  # between
        ([(56, ObservationKind.SILENT)], 59),  # no further than the ladder
        ([(59, ObservationKind.SILENT)], None),
    ],
)
def test_weights_are_added_along_the_ladder_outwards_and_then_between(answers, following):
    rungs = tuple((HungWeight(f"W-{i}", 1.0 + i / 100, 0.001),) for i in range(60))
    hung = HungAt(50.0, rungs[30], 0.4, rungs)
    tries = tuple(
        ObservationState(i, NOW, kind, 50.0, Source.TYPED, tool_value=50.0, detail=rung_detail(rung))
        for i, (rung, kind) in enumerate(answers)
    )
    series = SeriesState(1, FOUND, Direction.CW, 50.0, 5, tries, ())
    assert next_rung(series, hung) == following
