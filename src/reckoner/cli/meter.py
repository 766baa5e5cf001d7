"""`reckoner meter`: the stand-in as a process of its own."""

from __future__ import annotations

import click


@click.command("meter")
@click.option("--pty", "use_pty", is_flag=True, help="Serve on a pseudo-terminal instead of a socket.")
@click.option("--port", type=click.IntRange(0, 65535), default=0, help="Port on this machine; 0 picks a free one.")
@click.option("--rate", type=click.FloatRange(100, 5000), default=1000.0, help="Samples a second.")
@click.option("--noise", type=click.FloatRange(0, 5), default=0.02, help="Its noise in N·m.")
@click.option("--seed", type=int, default=1, help="Seed of everything random.")
@click.option("--speed", type=click.FloatRange(0.1, 100), default=1.0, help="How fast its time runs.")
def meter(use_pty: bool, port: int, rate: float, noise: float, seed: int, speed: float) -> None:
    """Stand in for a torque meter with a simulated click wrench on it; prints where it can be reached."""
    from reckoner.demo.build import truths
    from reckoner.meters.standin import StandIn, StandInPlan

    plan = StandInPlan(rate=rate, noise=noise, seed=seed, speed=speed, tools=truths())
    stand_in = StandIn(plan, use_pty=use_pty, port=port)
    click.echo(stand_in.url)
    try:
        stand_in.wait()
    except KeyboardInterrupt:
        stand_in.close()
