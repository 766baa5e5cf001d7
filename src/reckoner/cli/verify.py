"""`reckoner verify`: recompute the validation pack and print what was found."""

from __future__ import annotations

import click


@click.command("verify")
@click.pass_context
def verify(ctx: click.Context) -> None:
    """Recompute reference results and compare them; exit status 1 when any is missed.

    The output can be filed as evidence that this installation computes correctly.
    """
    import platform
    from datetime import datetime

    import numpy
    import scipy

    from reckoner import __version__
    from reckoner.formats import validation

    click.echo(f"Reckoner {__version__}: validation of the calculations")
    click.echo(
        f"{datetime.now().astimezone():%Y-%m-%d %H:%M %z} · Python {platform.python_version()} · NumPy {numpy.__version__}"
        f" · SciPy {scipy.__version__} · {platform.system()} {platform.machine()}"
    )
    done = missed = 0
    pack = ""
    for case in validation.cases():
        if case.pack != pack:
            pack = case.pack
            click.echo(f"\n{pack.upper()}\n{'':9}{'result':<44}{'expected':>20}{'found':>20}  tolerance")
        click.echo(f"{case.name} — {case.calculator}\n    {case.source}")
        for compared in validation.run(case):
            done += 1
            missed += not compared.reproduced
            mark = "ok" if compared.reproduced else "MISSED"
            expected, found = _shown(compared.expected), _shown(compared.found)
            exact = isinstance(compared.expected, str | bool)
            click.echo(
                f"  {mark:<7}{compared.where:<44}{expected:>20}{found:>20}  {'exact' if exact else case.tolerance}"
            )
    click.echo(f"\n{done - missed} of {done} results reproduced" + (f", {missed} MISSED" if missed else ""))
    ctx.exit(1 if missed else 0)


def _shown(value: object) -> str:
    if isinstance(value, bool) or value is None:
        return {True: "yes", False: "no", None: "nothing"}[value]
    return f"{value:.10g}" if isinstance(value, int | float) else str(value)
