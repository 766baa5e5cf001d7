"""Where a reference is good enough, how its checks stand, and what a certificate's lines say."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.history.crosschecks import Control, control_chart
from reckoner.core.quantities.units import N_M
from reckoner.core.reference.certificate import CertificatePoint, adequate_spans, at_torque
from reckoner.formats.points import parse_points

ratio = st.floats(-0.02, 0.02)
points = st.lists(
    st.builds(CertificatePoint, st.floats(1, 500), ratio, st.floats(0.001, 0.03)),
    min_size=2, max_size=6, unique_by=lambda p: round(p.torque),
)  # fmt: skip


@given(points, st.sampled_from([0.03, 0.04, 0.06]), st.booleans(), st.floats(0, 1))
def test_where_it_is_good_enough_is_where_its_doubt_is_a_quarter_of_the_limit(found, limit, left, share):
    """The same question asked of the certificate at one torque."""
    ordered = sorted(found, key=lambda p: p.torque)
    torque = ordered[0].torque + share * (ordered[-1].torque - ordered[0].torque)
    spans = adequate_spans(found, limit, left=left)
    if any(abs(torque - end) < 1e-6 * torque for span in spans for end in span) or any(
        abs(torque - p.torque) < 1e-6 * torque for p in found
    ):
        return  # on the edge
    at = at_torque(found, torque)
    doubt = at.expanded_uncertainty + (abs(at.error) if left else 0.0)
    if abs(doubt - limit / 4) < 1e-9:
        return
    assert any(low < torque < high for low, high in spans) == (doubt < limit / 4)


def test_below_a_fifth_of_its_range_it_is_not_good_enough():
    found = [CertificatePoint(10, 0, 0.004), CertificatePoint(200, 0, 0.004)]
    assert adequate_spans(found, 0.04, least=40) == ((40.0, 200.0),)
    assert adequate_spans(found, 0.012) == ()


def test_a_check_warns_at_two_and_stops_at_three_standard_deviations():
    steady = [0.001, 0.0012, 0.0008, 0.001]  # s = 0.000163
    for off, control in ((1.9, Control.STEADY), (2.1, Control.WARN), (2.9, Control.WARN), (3.1, Control.STOP)):
        newest = control_chart([*steady, 0.001 + off * 0.000163299])[-1]
        assert newest.control is control
        assert newest.distance == pytest.approx(off, rel=1e-3)
    assert [c.control for c in control_chart(steady)] == [Control.TOO_FEW] * 4


def test_one_that_stopped_does_not_widen_what_later_ones_are_held_against():
    chart = control_chart([0.001, 0.0012, 0.0008, 0.001, 0.01, 0.0011])
    assert [c.control for c in chart[4:]] == [Control.STOP, Control.STEADY]
    assert chart[5].mean == pytest.approx(0.001)


def test_a_check_beyond_the_references_own_limit_stops_whatever_came_before():
    (only,) = control_chart([0.009], limit=0.01, doubt=0.004)
    assert (only.control, only.beyond_limit) == (Control.STOP, True)
    assert control_chart([0.005], limit=0.01, doubt=0.004)[0].control is Control.TOO_FEW


@pytest.mark.parametrize(
    "text",
    [
        "40 0.1 0.4\n200 −0,2 0,5",
        "40; 0,1; 0,4\n200; -0,2; 0,5",
        "40 N·m  0.04 N·m  0.16 N·m\n200 N.m -0.4 N.m ±1 N.m",
        "Torque [N.m]\tW (k=2) [%]\tError [%]\n40\t0.4\t0.1\n\n200\t0.5\t-0.2",
        "Drehmoment;Messabweichung (%);Unsicherheit (%)\n40;0,1;0,4\n200;-0,2;0,5",
        "40, 0.1 %, 0.4 %\n200, -0.2 %, 0.5 %",
    ],
)  # fmt: skip
def test_a_certificates_points_are_read_as_they_are_typed_and_pasted(text):
    lines = parse_points(text, N_M)
    assert [line.fault for line in lines] == ["", ""]
    said = [v for line in lines for v in (line.torque, line.error, line.uncertainty)]
    assert said == pytest.approx([40, 0.001, 0.004, 200, -0.002, 0.005])


@pytest.mark.parametrize(
    ("line", "why"),
    [("abc 1 2", "not a torque"), ("40", "error is missing"), ("40 0.1", "uncertainty is missing"), ("1,234 0 1", "two ways"),
     ("40 0.1 0", "above 0"), ("40 80 1", "cannot be right"), ("-5 0 1", "above 0")],
)  # fmt: skip
def test_a_line_that_cannot_be_read_says_why(line, why):
    (found,) = parse_points(line, N_M)
    assert why in found.fault
