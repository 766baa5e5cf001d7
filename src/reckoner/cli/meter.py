"""`reckoner meter`: the stand-in as a process of its own."""

from __future__ import annotations

import math

import click

from reckoner.core.translation import tr

HAND_FAULTS = ("tremor", "tremor_hz", "eases", "easing", "letting_go", "snatching", "knocking")
METER_FAULTS = ("filter_hz", "ripple", "mains", "zero", "drift", "resolution", "clips_at")
FAULTS = (*HAND_FAULTS, *METER_FAULTS)


def _number(fault: str) -> tuple[str, float]:
    name, _, number = fault.partition("=")
    try:
        value = float(number)
    except ValueError:
        value = math.nan
    if name not in FAULTS or not math.isfinite(value):
        raise click.BadParameter(
            tr(
                '"{fault}" is none; write one of {list} with a number, such as tremor=0.006',
                fault=fault,
                list=", ".join(FAULTS),
            )
        )
    return name, value


@click.command(
    "meter",
    help=tr(
        "Stand in for a torque meter with a simulated click wrench on it; prints where it can be "
        "reached.\n\nOf a hand, a fault such as easing is how often it happens (0 to 1); a tremor is a "
        "fraction of the torque; of the meter,\ntorques are in N·m and frequencies in Hz."
    ),
)
@click.option("--pty", "use_pty", is_flag=True, help=tr("Serve on a pseudo-terminal instead of a socket."))
@click.option("--port", type=click.IntRange(0, 65535), default=0, help=tr("Port on this machine; 0 picks a free one."))
@click.option("--rate", type=click.FloatRange(100, 5000), default=1000.0, help=tr("Samples a second."))
@click.option("--noise", type=click.FloatRange(0, 5), default=0.02, help=tr("Its noise in N·m."))
@click.option(
    "--fault",
    "faults",
    multiple=True,
    metavar="NAME=NUMBER",
    help=tr("What the hand or the meter does wrong: {list}.", list=", ".join(FAULTS)),
)
@click.option("--seed", type=int, default=1, help=tr("Seed of everything random."))
@click.option("--unchecked", is_flag=True, help=tr("Send lines without a checksum."))
@click.option("--speed", type=click.FloatRange(0.1, 100), default=1.0, help=tr("How fast its time runs."))
def meter(
    use_pty: bool,
    port: int,
    rate: float,
    noise: float,
    faults: tuple[str, ...],
    seed: int,
    unchecked: bool,
    speed: float,
) -> None:
    from reckoner.demo.build import truths
    from reckoner.meters.indicator import MeterFaults
    from reckoner.meters.standin import StandIn, StandInPlan
    from reckoner.meters.wrench import Hand

    given = dict(_number(fault) for fault in faults)
    hand = Hand(**{name: value for name, value in given.items() if name in HAND_FAULTS})
    shown = MeterFaults(noise, **{name: value for name, value in given.items() if name in METER_FAULTS})
    plan = StandInPlan(rate=rate, meter=shown, hand=hand, seed=seed, speed=speed, tools=truths(), checked=not unchecked)
    stand_in = StandIn(plan, use_pty=use_pty, port=port)
    click.echo(stand_in.url)
    try:
        stand_in.wait()
    except KeyboardInterrupt:
        stand_in.close()
