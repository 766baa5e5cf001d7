"""Meters that know no protocol: what a line says, which values count, and what is said of the rest."""

import os
import pty
import tty

import pytest
from hypothesis import given
from hypothesis import strategies as st

from reckoner.core.errors import InputRefused
from reckoner.core.quantities.units import UNITS, Kind
from reckoner.meters.dial import open_link
from reckoner.meters.link import (
    MeterGarbled,
    Recovered,
    Trouble,
)
from reckoner.meters.plain import PlainPlan, SingleValues
from reckoner.meters.plainline import LineMeaning, NotUnderstood, read_line
from reckoner.meters.protocol import Identity, Value


def pseudo_terminal():
    master, slave = pty.openpty()
    tty.setraw(master)
    return master, os.ttyname(slave)


def test_a_plain_meter_gives_its_values_in_whatever_unit_it_writes():
    master, device = pseudo_terminal()
    link = open_link(f"plain:{device}?baud=9600")
    os.write(master, b"118.4 N.m\r\n0\r\n+118,6\r\n0\r\nOL\r\n\r\n87.3 lbf.ft\r\n0\r\n88 lbf.ft\n")
    seen = []
    for event in link.events():
        seen.append(event)
        if sum(isinstance(e, Value) for e in seen) == 4:
            link.close()
    os.close(master)
    values = [e.torque for e in seen if isinstance(e, Value)]
    assert values == pytest.approx([118.4, 118.6, 87.3 * 1.3558179483314004, 88 * 1.3558179483314004])
    units = [(e.unit.name, e.step) for e in seen if isinstance(e, Identity)]
    assert units == [
        ("N.m", 0.0),
        ("N.m", 0.1),
        ("lbf.ft", 0.1),
    ]  # unit and step follow the lines, and changes are told


def test_a_value_of_a_plain_meter_counts_when_it_stands_alone():
    def counted(*said: tuple[float, float]) -> list[float]:
        """What counts of (seconds, value)s, looked at every twentieth of a second until two seconds after the last."""
        singles, counts, waiting = SingleValues(), [], list(said)
        for step in range(20 * int(said[-1][0] + 2)):
            while waiting and waiting[0][0] <= step / 20:
                at, value = waiting.pop(0)
                counts.append(singles.take(value, at))
            counts.append(singles.settle(step / 20))
        return [c for c in counts if c is not None]

    assert counted((1, 118.4), (4, 118.4), (7, 118.6)) == [118.4, 118.4, 118.6]  # one a pull
    assert counted((1, 118.4), (1.1, 118.4), (2, 118.4), (3, 118.4)) == [118.4]  # one value, sent again and again
    assert counted((1, 118.4), (1.2, 0), (2.3, 118.4), (2.5, 0)) == [118.4, 118.4]  # a zero between makes it another
    every_half = [(t / 2, v) for t, v in enumerate((0, 0, 0, 40, 90, 118.4, 60, 0, 0), start=2)]
    assert counted(*every_half) == []  # whatever it measures, slowly
    assert counted(*[(1 + t / 50, 10.0 * t) for t in range(12)], (1.3, 0)) == []  # and quickly
    assert counted((1, 40), (1.1, 90), (1.2, 0), (4, 118.4)) == [118.4]


@pytest.mark.parametrize(
    "line", ["OVER 200", "BAT 98%", "12:30:05", "2026-11-26", "N 5 118.4", "118.4 118.6", "x" * 5000 + " 118.4"]
)
def test_what_else_a_plain_meter_writes_is_no_reading(line):
    master, device = pseudo_terminal()
    link = open_link(f"plain:{device}")
    seen = []
    os.write(master, line.encode() + b"\n0\n77.7\n0\n")
    for event in link.events():
        seen.append(event)
        if isinstance(event, Value):
            link.close()
    os.close(master)
    assert [e.torque for e in seen if isinstance(e, Value)] == [77.7]


@pytest.mark.parametrize(
    ("line", "value", "unit", "step"),
    [
        (".523 N.m", 0.523, "N.m", 0.001), ("1,234.5 N.m", 1234.5, "N.m", 0.1), ("1.234,5 N.m", 1234.5, "N.m", 0.1),
        ("#3 12.5 Nm", 12.5, "N.m", 0.1), ("3 45.60 Nm", 45.6, "N.m", 0.01), ("0003, 45.6, Nm, OK", 45.6, "N.m", 0.1),
        ("2026-11-24 10:02 45.6 Nm", 45.6, "N.m", 0.1), ("24.11.2026 10:02:33 45,6 Nm", 45.6, "N.m", 0.1),
        ("45.6 Nm OK", 45.6, "N.m", 0.1), ("+ 045.6 N.m P", 45.6, "N.m", 0.1), ("45.6 Nm 12.3 deg", 45.6, "N.m", 0.1),
        ("45.60;Nm", 45.6, "N.m", 0.01), ("Nm;45.6", 45.6, "N.m", 0.1), ("45.6\tft lb\tPEAK", 45.6, "lbf.ft", 0.1),
        ("in.lb 12", 12.0, "lbf.in", 1.0), ("−12,5 N·m", -12.5, "N.m", 0.1), ("0,523", 0.523, None, 0.001),
        ("118 OK", 118.0, None, 1.0),
    ],
)  # fmt: skip
def test_a_line_that_can_be_read_one_way_only_is_read_so(line, value, unit, step):
    found = read_line(line)
    assert isinstance(found, LineMeaning)
    assert (found.value, found.unit and found.unit.name, found.step) == (value, unit, pytest.approx(step))


@pytest.mark.parametrize(
    "line",
    [
        "1,234 Nm", "1 234.5 Nm", "12,345.6,Nm", "3,45.6,Nm", "Target 50 Nm Actual 45.6 Nm", "118.4 118.6", "3 118.4",
        "12.5 V", "45.6.7 Nm", "45.6e1 Nm", "1e3 Nm", "A45.6 Nm", "999999999 Nm", "45.6 kg", "OVER 200", "12.5 Nm/deg",
        "12.5 Nm/deg 3",
    ],
)  # fmt: skip
def test_a_line_that_can_be_another_number_is_none_and_says_why(line):
    found = read_line(line)
    assert isinstance(found, NotUnderstood)
    assert found.why


@given(
    st.floats(0.001, 99_999), st.integers(0, 4), st.sampled_from([u for u in UNITS if u.kind is Kind.TORQUE]), st.data()
)
def test_whatever_stands_around_a_value_it_is_that_value_or_none(value, decimals, unit, data):
    """Never silently another: with a unit beside it, among indexes, dates, statuses and columns."""
    written = f"{value:.{decimals}f}"
    before = data.draw(
        st.sampled_from(
            ["", "#12 ", "No. 3 ", "2026-11-24 ", "24.11.2026 10:02 ", "10:02:33 ", "PK ", "7;", "7 ", "12\t"]
        )
    )
    after = data.draw(st.sampled_from(["", " OK", ";NG", "\tP", " 12.3 deg", " 3", ", 2026-11-24"]))
    gap = data.draw(st.sampled_from(["", " ", ";", "\t"]))
    found = read_line(f"{before}{written}{gap}{unit.name}{after}")
    if isinstance(found, LineMeaning):
        assert (found.value, found.unit) == (float(written), unit)


def heard_until_a_value(link, master):
    """What the link tells up to its first value, less who it is; it is closed then."""
    seen = []
    for event in link.events():
        seen.append(event)
        if isinstance(event, Value):
            link.close()
    os.close(master)
    return [e for e in seen if not isinstance(e, Identity)]


def test_a_line_that_is_not_understood_is_said_at_once_and_forgotten_with_the_next():
    master, device = pseudo_terminal()
    link = open_link(f"plain:{device}")
    os.write(master, b"1,234 N.m\n0\n1,234.5 N.m\n0\n")
    told = heard_until_a_value(link, master)
    assert [type(e) for e in told] == [Trouble, Recovered, Value]
    assert "sent “1,234 N.m”, and nothing of it is taken" in str(told[0].fault)
    assert told[-1].torque == 1234.5


def test_a_plain_meter_that_runs_on_is_told_and_recovers():
    master, device = pseudo_terminal()
    link = open_link(f"plain:{device}")
    os.write(master, b"40\n90\n118.4\n0\n41\n0\n")
    told = heard_until_a_value(link, master)
    assert [type(e) for e in told] == [Trouble, Recovered, Value]
    assert "one value a pull" in str(told[0].fault)
    assert told[-1].torque == 41.0


def test_a_plain_meters_pattern_picks_what_counts_and_garbage_is_said():
    master, device = pseudo_terminal()
    link = open_link(f"plain:{device}?unit=cN.m&pattern=TR%3D[0-9.]%2B PK%3D(?P<value>[0-9.]%2B)")
    os.write(master, b"TR=55.1 PK=60.5\nTR=0 PK=0\n" + b"TR=55.1\n" * 25)
    seen = []
    for event in link.events():
        seen.append(event)
        if isinstance(event, Trouble):
            link.close()
    os.close(master)
    assert [e.torque for e in seen if isinstance(e, Value)] == pytest.approx([0.605])
    assert isinstance(seen[-1].fault, MeterGarbled)


@pytest.mark.parametrize(
    ("link", "words"),
    [
        ("plain:", "names no port"),
        ("plain:/dev/x?speed=3", "has the option speed"),
        ("plain:/dev/x?baud=fast", "is not a speed"),
        ("plain:/dev/x?pattern=(", "is not a regular expression"),
        ("plain:/dev/x?pattern=[0-9]", "has no group"),
        ("plain:/dev/x?unit=bar", "is not a unit of torque"),
    ],
)
def test_a_plain_link_that_cannot_be_read_says_why(link, words):
    with pytest.raises(InputRefused, match=words):
        PlainPlan.parse(link)


def test_a_plain_meter_that_never_pauses_is_known_before_it_does():
    one, other = SingleValues(), SingleValues()
    assert [one.take(39.8, i / 100) for i in range(50)] == [None] * 50
    assert not one.ran_on
    one.take(39.8, 0.51)
    assert one.ran_on
    other.take(39.8, 0.0)
    other.take(39.9, 0.01)
    assert other.ran_on
