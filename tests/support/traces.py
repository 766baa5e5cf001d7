"""Traces built from formulas."""

import numpy as np

PEAK = 118.0


def click(rate, *, rise=2.0, dip=0.08, over=0.05, noise=0.0, ripple=0.0, hertz=50.0, drift=0.0, seed=1, rest=0.5):
    """Times and torques of a pull that rises in ``rise`` s to a click at PEAK, travels over and is let go."""
    rng = np.random.default_rng(seed)
    still, up, past, down = (np.arange(round(s * rate)) / rate for s in (rest, rise, 0.4, 0.2))
    after = (
        1
        - dip * np.minimum(past / 0.018, 1) * np.exp(-np.maximum(0, past - 0.018) / 0.05)
        + over * (past > 0.1) * (1 - np.exp(-np.maximum(0, past - 0.1) / 0.05))
    )
    let_go = PEAK * (1 + over) * (1 - down / 0.2) ** 2
    torque = np.concatenate([still * 0, PEAK * up / rise, PEAK * after, let_go, still * 0])
    times = np.arange(len(torque)) / rate
    torque += drift * times + ripple * PEAK * np.sin(2 * np.pi * hertz * times + rng.uniform(0, 6))
    return times, torque + rng.normal(0, noise * PEAK, len(torque))
