"""`reckoner rules FILE`: check a rule set of one's own."""

from __future__ import annotations

from pathlib import Path

import click


@click.command("rules")
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@click.pass_context
def rules(ctx: click.Context, file: Path) -> None:
    """Check the rule set in FILE (TOML): one line for each mistake and exit status 2, or what it asks for."""
    from reckoner.formats.rulesets import RuleSetRefused, load

    try:
        found = load(file)
    except RuleSetRefused as refusal:
        for mistake in refusal.mistakes:
            click.echo(f"{refusal.source}: {mistake}", err=True)
        ctx.exit(2)
    points = "chosen by the owner" if found.owner_points else ", ".join(f"{f * 100:g} %" for f in found.fractions)
    first = "the stated minimum, " if found.minimum_point else ""
    click.echo(
        f"{found.title} ({found.name}): points {first}{points}; {found.readings} readings each after {found.exercise}"
        f" releases; rule {found.decision.rule.value}; every {found.months} months"
    )
