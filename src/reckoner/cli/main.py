"""The command's front door: options of the window, and the subcommands, loaded only when named."""

from __future__ import annotations

import importlib
import logging
import sys
from collections.abc import Callable
from datetime import date
from pathlib import Path
from types import TracebackType

import click

from reckoner.cli.options import WindowOptions, default_folder
from reckoner.cli.version import show_version
from reckoner.core.errors import Refused
from reckoner.core.translation import tr
from reckoner.store.logs import FORMAT

log = logging.getLogger(__name__)

COMMANDS = {
    "backup": ("reckoner.cli.shopfile", "backup"),
    "calc": ("reckoner.cli.calculators", "calc"),
    "doctor": ("reckoner.cli.doctor", "doctor"),
    "import": ("reckoner.cli.importing", "importing"),
    "meter": ("reckoner.cli.meter", "meter"),
    "archive": ("reckoner.cli.shopfile", "archive"),
    "rebuild": ("reckoner.cli.shopfile", "rebuild"),
    "rehearse": ("reckoner.cli.verify", "rehearse"),
    "restore": ("reckoner.cli.shopfile", "restore"),
    "rules": ("reckoner.cli.calculators", "rules"),
    "unlock": ("reckoner.cli.shopfile", "unlock"),
    "verify": ("reckoner.cli.verify", "verify"),
}
"""Subcommand → (module, click command)."""


class LazyGroup(click.Group):
    """Imports a subcommand when it is named."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        return sorted(COMMANDS)

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:
        if cmd_name not in COMMANDS:
            return None
        module, name = COMMANDS[cmd_name]
        command: click.Command = getattr(importlib.import_module(module), name)
        return command


def data_option(function: Callable[..., object]) -> Callable[..., object]:
    return click.option(
        "--data", "folder", type=click.Path(path_type=Path, file_okay=False), help=tr("Folder of the database.")
    )(function)


def _a_date(_ctx: click.Context, _param: click.Parameter, value: str | None) -> date | None:
    if value is None:
        return None
    try:
        return date.fromisoformat(value)
    except ValueError:
        raise click.BadParameter(tr('"{value}" is not a date; write it as 2026-11-24', value=value)) from None


def make_command(open_window: Callable[[WindowOptions], int]) -> click.Group:
    """The whole command; ``open_window`` is handed in so that nothing here knows the window."""

    @click.group(
        cls=LazyGroup,
        invoke_without_command=True,
        context_settings={"help_option_names": ["-h", "--help"]},
        epilog=tr(
            "Exit status: 0 done; 1 done, and something was found that is not as it should be, or the window could not open; "
            "2 refused, with a sentence that says why; 130 called off."
        ),
        help=tr(
            "Test torque wrenches and torque screwdrivers at the bench, and keep their history.\n\nWithout "
            "a subcommand the window opens."
        ),
    )
    @click.option(
        "--version",
        is_flag=True,
        expose_value=False,
        is_eager=True,
        callback=show_version,
        help=tr("Say what exactly runs here, and end."),
    )
    @data_option
    @click.option("--demo", is_flag=True, help=tr("Open the invented Harrowmere Cableway workshop."))
    @click.option("--today", callback=_a_date, help=tr("Pretend that today is this date, such as 2026-11-24."))
    @click.option("--dark", is_flag=True, help=tr("Begin in the dark theme."))
    @click.option("--verbose", is_flag=True, help=tr("Log more to standard error."))
    @click.pass_context
    def reckoner(
        ctx: click.Context, folder: Path | None, demo: bool, today: date | None, dark: bool, verbose: bool
    ) -> None:
        logging.basicConfig(
            level=logging.INFO if verbose else logging.WARNING,
            format=FORMAT,
            stream=sys.stderr,
        )
        options = WindowOptions(folder or default_folder(demo=demo), demo, today, dark)
        ctx.obj = options
        if ctx.invoked_subcommand is None:
            ctx.exit(open_window(options))

    return reckoner


def run(open_window: Callable[[WindowOptions], int]) -> int:
    """Run the command on ``sys.argv``; a refusal is one line on standard error and exit status 2."""
    try:
        result = make_command(open_window).main(standalone_mode=False)
    except click.ClickException as fault:
        fault.show()
        return fault.exit_code
    except click.Abort:
        return 130
    except Refused as refusal:
        click.echo(str(refusal), err=True)
        return 2
    return result if isinstance(result, int) else 0


def apologise(kind: type[BaseException], fault: BaseException, trace: TracebackType | None) -> None:
    """A fault of ours that nothing else has met, as the interpreter's last word: logged whole, said in a sentence."""
    if issubclass(kind, KeyboardInterrupt):
        sys.__excepthook__(kind, fault, trace)
        return
    from reckoner.store.logs import keep_log, log_path

    logging.getLogger().handlers.clear()  # standard error is for the sentence
    keep_log(log_path())
    log.critical("a fault of ours in the command", exc_info=(kind, fault, trace))
    click.echo(
        tr(
            "Reckoner has made a mistake of its own, sorry: what was asked did not work. The details are "
            "in {log_path}; please pass them on.",
            log_path=log_path(),
        ),
        err=True,
    )
