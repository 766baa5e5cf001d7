"""What a meter sends reaches the window bounded, whatever it sends, and its thread never ends without a word."""

import socket
import threading
import time

import numpy as np
import pytest

from reckoner.meters.pull import PullAim
from reckoner.ui.meterwatch import FLOODS, MOST_WAITING, RESTLESS, MeterWaiting, MeterWatch
from tests.support.hands import WAIT

HELLO = b"meter 1 number=PM-5 serial=TM1 unit=N.m rate=1000\n"
OTHER = HELLO.replace(b"N.m", b"lbf.ft")


class Heard:
    """A watch at a socket that says hello, then ``flood`` as often as it is taken, until it is told to stop."""

    def __init__(self, flood, times, clock=time.monotonic):
        self.server = socket.create_server(("127.0.0.1", 0))
        url = f"socket://127.0.0.1:{self.server.getsockname()[1]}"
        self.watch = MeterWatch(url, PullAim(40.0), clock=clock)
        self.values, self.rooms, self.troubles, self.over, self.recovered = [], [], [], [], []
        self.watch.valued.connect(self.values.append)
        self.watch.roomed.connect(self.rooms.append)
        self.watch.trouble.connect(lambda words, over: (self.over if over else self.troubles).append(words))
        self.watch.recovered.connect(lambda: self.recovered.append(True))
        self.thread = threading.Thread(target=self._serve, args=(flood, times), daemon=True)
        self.thread.start()
        self.watch.start()

    def _serve(self, flood, times):
        connection, _ = self.server.accept()
        with connection, self.server:
            try:
                connection.sendall(HELLO)
                for _ in range(times):
                    connection.sendall(flood)
                connection.shutdown(socket.SHUT_WR)  # closing with commands unread would throw away what was sent
                while connection.recv(1000):
                    pass
            except OSError:
                pass  # it has heard enough


@pytest.mark.parametrize(
    ("flood", "values", "rooms", "said"),
    [
        (b"v 39.8\n" * 2000, 1, 0, FLOODS),
        (b"room 21.5 40\n" * 2000, 0, 20, FLOODS),
        (HELLO * 500, 0, 0, FLOODS),
        (b"?!\n" * 2000, 0, 0, "not in the protocol"),
        (b"s 1 0.1\n" + b"?!\n" * 2000, 0, 0, "not in the protocol"),
        (b"x" * 50_000, 0, 0, ""),
    ],
)
def test_a_flood_is_said_once_and_the_end_of_the_link_too(qtbot, flood, values, rooms, said):
    heard = Heard(flood, 5, lambda: 100.0)  # all of it within a moment, however slow the machine is
    qtbot.waitUntil(lambda: heard.over != [], timeout=WAIT)
    heard.watch.stop()
    assert len(heard.values) <= values
    assert len(heard.rooms) <= rooms
    assert len(heard.troubles) <= 2
    assert said in "".join(heard.troubles)
    assert "broke off" in heard.over[0]


def test_what_says_again_and_again_that_it_is_another_is_not_listened_to(qtbot):
    heard = Heard((HELLO + OTHER) * 50, 2000)
    qtbot.waitUntil(lambda: heard.over != [], timeout=WAIT)
    assert heard.over[0] == RESTLESS
    heard.thread.join(WAIT / 1000)
    heard.watch.stop()
    assert not heard.thread.is_alive()


def test_samples_wait_bounded_and_in_order():
    waiting = MeterWaiting()
    assert waiting.put(np.arange(3.0), 1000, now=1.0)
    assert not waiting.put(np.arange(3.0, 6.0), 1000, now=2.0)  # told already
    assert not waiting.put(np.arange(2.0), 500, now=2.0)
    (one, rate), (other, slower) = waiting.take()
    assert (list(one), rate, list(other), slower) == ([0, 1, 2, 3, 4, 5], 1000, [0, 1], 500)
    assert not waiting.put(np.arange(3.0), 1000, now=1.001)  # no screen shows them that fast
    for _ in range(60):
        waiting.put(np.zeros(10_000), 1000, now=3.0)
    assert sum(len(block) for block, _ in waiting.take()) <= MOST_WAITING
