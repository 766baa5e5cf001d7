"""The stand-in behind a real socket and a real pseudo-terminal, through pyserial; and what a bad meter sends."""

import errno
import os
import pty
import re
import socket
import threading
import time
import tty

import numpy as np
import pytest
import serial

from reckoner.core.quantities.units import N_M, unit_named
from reckoner.core.trace.stream import PullOver, PullWatch, StreamSignal
from reckoner.meters.dial import LinkRefused, checked_link, open_link, serial_ports
from reckoner.meters.indicator import MeterFaults
from reckoner.meters.link import (
    Lines,
    MeterDamaged,
    MeterGarbled,
    MeterGone,
    MeterInUse,
    MeterLink,
    MeterNotThere,
    MeterRefused,
    MeterSilent,
    Recovered,
    Samples,
    Trouble,
)
from reckoner.meters.protocol import (
    Garbage,
    Identity,
    MeterAnswer,
    RoomReport,
    Sample,
    Value,
    parse,
    plain_sample,
    with_checksum,
    without_checksum,
)
from reckoner.meters.standin import StandIn, StandInPlan
from reckoner.meters.wrench import SimulatedBench, Truth

PLAN = StandInPlan(
    number="PM-9", serial="77", meter=MeterFaults(noise=0.05), speed=20, tools={"T": Truth(gain=0.98, first_high=0)}
)


@pytest.mark.parametrize("use_pty", [False, True])
def test_a_pull_is_read_through_pyserial_without_losing_a_sample(use_pty):
    stand_in = StandIn(PLAN, use_pty=use_pty)
    link = MeterLink(stand_in.url)
    found, missed, watch = [], 0, None
    for event in link.events():
        if isinstance(event, Identity):
            assert (event.number, event.serial, event.simulated) == ("PM-9", "77", True)
            watch = PullWatch(120, event.rate)
            for command in ("tool T", "set 120 N.m", "pull"):
                link.send(command)
        elif isinstance(event, Samples) and watch:
            missed += event.missed
            for item in watch.feed(event.torque):
                found.append(item)
                link.send("release")
        if any(isinstance(f, PullOver) for f in found):
            link.close()
    stand_in.close()
    signal, ended = found
    assert isinstance(signal, StreamSignal)
    (event,) = ended.events
    assert signal.torque == pytest.approx(120 * 0.98, rel=0.02)
    assert event.first_peak == pytest.approx(signal.torque, rel=0.001)
    assert event.time_80_to_100 == pytest.approx(0.88, abs=0.1)
    assert ended.signals == (signal,)
    assert missed == 0


def test_no_meter_is_said_at_once():
    with pytest.raises(MeterNotThere, match="Check its cable"):
        MeterLink("socket://127.0.0.1:1")


def test_a_meter_that_falls_asleep_is_said_and_comes_back():
    stand_in = StandIn(PLAN)
    link = MeterLink(stand_in.url)
    told = []
    for event in link.events():
        if isinstance(event, Identity):
            stand_in.mute.set()
        if isinstance(event, Trouble):
            told.append(type(event.fault))
            stand_in.mute.clear()
        if isinstance(event, Recovered):
            link.close()
    assert told == [MeterSilent]
    stand_in.close()


def test_a_meter_that_is_unplugged_is_said():
    stand_in = StandIn(PLAN)
    link = MeterLink(stand_in.url)
    last = None
    for event in link.events():
        if isinstance(event, Identity):
            threading.Thread(target=stand_in.close).start()
        last = event
    assert isinstance(last, Trouble)
    assert last.over
    assert isinstance(last.fault, MeterGone)


def test_the_quick_reading_of_samples_keeps_to_the_letter_too():
    assert plain_sample(b"s 10 1.5", N_M) == (10, 1.5)
    assert plain_sample(b"s 1_0 1.5", N_M) is None
    assert plain_sample(b"s 10 1_5", N_M) is None


def test_garbage_is_said_and_never_taken_as_a_sample():
    master, slave = pty.openpty()
    tty.setraw(master)
    link = MeterLink(os.ttyname(slave))
    os.write(master, b"meter 1 number=X serial=1 unit=N.m rate=1000\n" + b"\xff\x00s one 2\ns 4 nan\nWX 12.5\n" * 12)
    seen = []
    for event in link.events():
        seen.append(event)
        if isinstance(event, Trouble):
            link.close()
    assert isinstance(seen[-1].fault, MeterGarbled)
    assert not any(isinstance(e, Samples) for e in seen)
    os.close(master)


def test_a_stranger_that_never_says_who_it_is_is_refused():
    ticks = iter(np.arange(0, 100, 0.5))
    with socket.create_server(("127.0.0.1", 0)) as server:
        link = MeterLink(f"socket://127.0.0.1:{server.getsockname()[1]}", clock=lambda: float(next(ticks)))
        events = list(link.events())
    assert isinstance(events[-1].fault, MeterNotThere)
    assert events[-1].over


@pytest.mark.parametrize(
    ("line", "meaning"),
    [
        ("s 12 1.5", Sample(12, 1.5)),
        ("ok zero", MeterAnswer(True, "zero")),
        ("v 118.4", Value(118.4)),
        ("v nan", Garbage("v nan")),
        ("room 21.4 46", RoomReport(21.4, 0.46)),
        ("room 21.4 146", Garbage("room 21.4 146")),
        ("no such command", MeterAnswer(False, "such command")),
        ("s -1 1.5", Garbage("s -1 1.5")),
        ("s 1 1e99", Garbage("s 1 1e99")),
        ("v 1_000", Garbage("v 1_000")),
        ("s 1_0 1.5", Garbage("s 1_0 1.5")),
        ("room 2_1 45", Garbage("room 2_1 45")),
        ("v ١٢", Garbage("v ١٢")),
        ("meter 2 number=X", Garbage("meter 2 number=X")),
        ("meter 1 number=X serial=1 unit=bar rate=10", Garbage("meter 1 number=X serial=1 unit=bar rate=10")),
    ],
)
def test_lines(line, meaning):
    assert parse(line, N_M) == meaning


def test_samples_are_turned_into_newton_metres():
    assert parse("s 0 10", unit_named("lbf.ft")).torque == pytest.approx(13.5582, abs=1e-4)


def test_the_simulated_wrench_trips_by_the_moment_about_its_pivot():
    truth = Truth(scatter=0, first_high=0, lever=0.42, pivot=0.03)
    near = SimulatedBench(np.random.default_rng(1), truth=truth)
    near.set_to(100)
    near.hand = type(near.hand)(misplaced=0)
    assert near.trip_torque() == pytest.approx(100)
    near.set_to(90)
    assert near.trip_torque() == pytest.approx(90 * 1.012)  # set from above
    near.turn_screw(0.5)
    assert near.trip_torque() == pytest.approx((90 + 3.75) * 1.012)


def test_first_releases_are_high_and_a_hand_that_goes_on_travels_over():
    bench = SimulatedBench(np.random.default_rng(1), truth=Truth(scatter=0, first_high=0.04))
    bench.set_to(100)
    watch, pulls = PullWatch(100, 1000), []
    for _ in range(4):
        bench.pull()
        watch.feed(bench.advance(2600))
        bench.release()
        pulls += [news for news in watch.feed(bench.advance(1000)) if isinstance(news, PullOver)]
    assert all(over.events[0].over_travel > 0.01 for over in pulls)
    peaks = [over.events[0].first_peak for over in pulls]
    assert peaks[0] > 1.03 * 100 > peaks[3]
    assert peaks == sorted(peaks, reverse=True)


def pseudo_terminal():
    master, slave = pty.openpty()
    tty.setraw(master)
    return master, os.ttyname(slave)


def test_an_overlong_line_is_dropped_to_its_very_end():
    lines = Lines()
    assert lines.take(b"whole\n" + b"x" * 5000) == [b"whole"]
    assert lines.take(b"x" * 5000) == []
    assert lines.take(b"v 118.4\nv 77.7\nv 8") == [b"v 77.7"]
    assert lines.take(b"8\n") == [b"v 88"]
    assert lines.overlong == 1


@pytest.mark.parametrize("kind", ["", "plain:"])
def test_a_port_is_listened_at_by_one_program(kind):
    master, device = pseudo_terminal()
    first = open_link(kind + device)
    with pytest.raises(MeterInUse, match="Another program listens"):
        open_link(kind + device)
    first.close()
    assert list(first.events())[1:] == []
    open_link(kind + device)
    os.close(master)


@pytest.mark.timeout(30)
def test_a_stand_in_that_nobody_reads_can_be_closed():
    stand_in = StandIn(StandInPlan(speed=50), use_pty=True)
    with serial.serial_for_url(stand_in.url) as port:
        port.write(b"stream on\n")
        waiting = [-1]
        while port.in_waiting != waiting[-1]:  # until there is room for no more
            waiting.append(port.in_waiting)
            time.sleep(0.2)
        stand_in.close()


def test_a_trace_is_played_as_a_meter_and_ends_with_a_word(tmp_path):
    times = np.arange(0, 1, 0.002)
    file = tmp_path / "pull.csv"
    file.write_text("time_s,torque [N.m]\n" + "\n".join(f"{t:.3f},{100 * t:.3f}" for t in times))
    events = list(open_link(f"replay:{file}?speed=20").events())
    assert events[0].rate == pytest.approx(500)
    played = np.concatenate([e.torque for e in events if isinstance(e, Samples)])
    assert played == pytest.approx(100 * times, abs=1e-3)
    assert "is at its end" in str(events[-1].fault)
    for text, words in (("", "is empty"), ("time_s,torque [N.m]\n0,1\n", "at least two samples")):
        file.write_text(text)
        with pytest.raises(MeterRefused, match=words):
            open_link(f"replay:{file}")
    with pytest.raises(MeterRefused, match=re.escape(os.strerror(errno.ENOENT))):
        open_link("replay:/nowhere.csv")


def test_a_meter_that_changes_its_unit_says_so_and_its_samples_stay_newton_metres():
    stand_in = StandIn(StandInPlan(speed=20, meter=MeterFaults(zero=13.558179483314004)))
    link = MeterLink(stand_in.url)
    units, levels = [], []
    for event in link.events():
        if isinstance(event, Identity):
            units.append(event.unit.name)
            if len(units) == 1:
                link.send("mode peak")
                link.send("room")
                link.send("unit lbf.ft")
        if isinstance(event, Samples):
            levels.append(float(event.torque.mean()))
            if len(units) == 2 and len(levels) > 20:
                link.close()
    stand_in.close()
    assert units == ["N.m", "lbf.ft"]
    assert levels == pytest.approx([13.558] * len(levels), rel=1e-3)


def test_the_stand_in_turns_both_ways_and_remembers_its_screw():
    stand_in = StandIn(StandInPlan(speed=20, tools={"W": Truth(scatter=0, first_high=0, screw_rate=10.0)}))
    for expected in (-110.0, -120.0):
        link = MeterLink(stand_in.url)
        lowest = 0.0
        for event in link.events():
            if isinstance(event, Identity):
                for command in ("tool W", "turn 1", "direction ccw", "set 100 N.m", "pull"):
                    link.send(command)
            if isinstance(event, Samples):
                lowest = min(lowest, float(event.torque.min()))
                if event.start > 4000:
                    link.close()
        assert lowest == pytest.approx(expected, rel=0.08)
    stand_in.close()
    assert isinstance(serial_ports(), tuple)


@pytest.mark.parametrize(
    "link",
    ["spy:///dev/ttyUSB0?file=/etc/passwd", "alt:///dev/x", "hwgrep://x", "loop://", "notes.txt", "plain:spy://x"],
)
def test_only_known_kinds_of_link_are_opened(link, tmp_path, monkeypatch):
    monkeypatch.chdir(tmp_path)
    with pytest.raises(LinkRefused, match="no known kind"):
        open_link(link)
    assert list(tmp_path.iterdir()) == []
    for good in (
        "",
        "stand-in",
        "/dev/ttyUSB0",
        "socket://h:1",
        "plain:/dev/ttyUSB0",
        "replay:x.csv",
        " rfc2217://h:2 ",
    ):
        assert checked_link(good) == good.strip()


def test_values_and_samples_before_a_meter_says_who_it_is_do_not_count():
    stand_in = socket.create_server(("127.0.0.1", 0))
    link = MeterLink(f"socket://127.0.0.1:{stand_in.getsockname()[1]}")
    peer, _ = stand_in.accept()
    long = b"x" * 9000
    peer.sendall(b"v 29.5\ns 1 3\nroom 20 50\nmeter 1 number=X serial=1 unit=lbf.ft rate=0\n" + long + b" v 12\nv 30\n")
    found = []
    for event in link.events():
        found.append(event)
        if isinstance(event, Value):
            link.close()
    assert [type(e).__name__ for e in found if not isinstance(e, Trouble)] == ["Identity", "Value"]
    assert found[-1].torque == pytest.approx(
        30 * 1.3558179
    )  # in its own unit, and not the 12 at the end of a line too long
    peer.close()
    stand_in.close()


def said_by(lines: list[str]) -> list[object]:
    """What a link makes of what a meter sends at once, up to the first value."""
    master, slave = pty.openpty()
    tty.setraw(master)
    link = MeterLink(os.ttyname(slave))
    sending = threading.Thread(target=os.write, args=(master, "".join(f"{line}\n" for line in lines).encode()))
    sending.start()
    seen: list[object] = []
    for event in link.events():
        seen.append(event)
        if isinstance(event, Value):
            link.close()
    sending.join()
    os.close(master)
    return seen


def whole(*lines: str) -> list[str]:
    return [with_checksum(line) for line in lines]


def test_the_checksum_is_the_one_that_is_described():
    assert with_checksum("123456789") == "123456789 ~29B1"
    assert without_checksum(b"123456789 ~29B1\r") == b"123456789"
    assert [without_checksum(raw) for raw in (b"123456789", b"123456789 ~29b1", b"12345678 ~29B1")] == [None] * 3


VALUES = "meter 1 number=X serial=1 unit=N.m rate=0"


def test_a_damaged_value_is_told_and_not_taken():
    good = with_checksum("v 118.42")
    identity, damaged, value = said_by([*whole(f"{VALUES} check=crc16"), good.replace("118", "18"), "v 18.42", good])
    assert isinstance(identity, Identity)
    assert identity.checked
    assert isinstance(damaged, Trouble)
    assert isinstance(damaged.fault, MeterDamaged)
    assert value == Value(118.42)


@pytest.mark.parametrize("line", [f"{VALUES} check=crc16", f"{VALUES} check=crc16 ~0000", with_checksum(VALUES)])
def test_who_a_meter_is_is_held_against_its_checksum(line):
    assert isinstance(parse(line, N_M), Garbage)


def test_a_meter_that_no_longer_checks_is_another_one():
    first, second, value = said_by([*whole(f"{VALUES} check=crc16"), VALUES, "v 12"])
    assert (first.checked, second.checked, value) == (True, False, Value(12.0))


def test_a_damaged_sample_is_a_gap_and_one_that_came_before_is_not_counted_again():
    stream = "meter 1 number=X serial=1 unit=N.m rate=1000 check=crc16"
    lines = whole(stream, "s 0 1", "s 1 2", "s 1 2", "s 0 1", "s 2 3", "s 3 4", "s 4 5", "v 9")
    lines[-3] = lines[-3].replace("4 ~", "44 ~")
    identity, *events = said_by(lines)
    rest = [one for one in events if isinstance(one, Samples)]
    torque = np.concatenate([one.torque for one in rest])
    assert torque.tolist() == [1, 2, 3, 5]
    assert sum(one.missed for one in rest) == 1
    assert identity.checked


def test_a_meter_that_counts_from_0_again_is_asked_who_it_is_and_goes_on():
    with socket.create_server(("127.0.0.1", 0)) as server:
        link = MeterLink(f"socket://127.0.0.1:{server.getsockname()[1]}")
        peer, _ = server.accept()
        peer.settimeout(20)
        stream = b"meter 1 number=X serial=1 unit=N.m rate=1000\n"
        again = b"".join(b"s %d 1\n" % i for i in range(30))
        peer.sendall(stream + b"s 5000 2\n" + again)
        heard = b""

        def answer() -> None:
            nonlocal heard
            while heard.count(b"hello\n") < 2 and (data := peer.recv(100)):
                heard += data
            peer.sendall(stream + b"s 31 7\n")

        answering = threading.Thread(target=answer)
        answering.start()
        torque = []
        for event in link.events():
            if isinstance(event, Samples):
                torque += event.torque.tolist()
            if len(torque) == 2 or isinstance(event, Trouble):
                link.close()
        answering.join()
        peer.close()
    assert torque == [2, 7]
