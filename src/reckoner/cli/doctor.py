"""`reckoner doctor`: what on this machine stands in the way, each in a sentence with what to do."""

from __future__ import annotations

import getpass
import grp
import os
import shutil
import stat
import subprocess
import sys
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import timedelta
from enum import Enum
from pathlib import Path
from typing import TYPE_CHECKING

import click

from reckoner.cli.main import data_option
from reckoner.cli.options import WindowOptions, default_station
from reckoner.cli.version import version_words
from reckoner.core.errors import Refused
from reckoner.core.quantities.days import day_words, moment_words
from reckoner.core.translation import tr
from reckoner.store import times

if TYPE_CHECKING:
    from reckoner.store.database import Database

ROOM = 500_000_000
"""Bytes that ought to be free where records are kept."""

OLD_BACKUP = timedelta(days=7)

FORWARD = timedelta(minutes=5)
"""How far the newest record may lie ahead of the clock, as one put right by a little leaves it."""

CHILD_S = 60

WIDE = 9
"""Letters that a mark has room for."""

WALKED = 200_000
"""Links of the chain that are walked here; more are left to `reckoner verify --records`."""


class Urgency(Enum):
    """How something was found: as it should be, or missing where the rest works without, or to be seen to."""

    FINE = tr("fine")
    WITHOUT = tr("without")
    LOOK = tr("LOOK")


@dataclass(frozen=True)
class MachineCheck:
    """What was looked at, and what was found, with what is to be done about it."""

    what: str
    words: str
    mark: Urgency = Urgency.FINE


def _seen(what: str, words: str, *, fine: bool) -> MachineCheck:
    return MachineCheck(what, words, Urgency.FINE if fine else Urgency.LOOK)


@click.command(
    "doctor",
    help=tr(
        "Look at what the program needs on this machine: screen, voice, folders, rights, database, records, backups, clock, "
        "serial ports. Says in a sentence each what to do; exit status 1 where something is to be done. Nothing is changed."
    ),
)
@data_option
@click.pass_obj
def doctor(options: WindowOptions, folder: Path | None) -> int:
    where = folder or options.folder
    checks: tuple[Callable[[], Iterator[MachineCheck]], ...] = (
        _screen,
        _voice,
        _ports,
        lambda: _folder(where),
        lambda: _database(where),
        lambda: _station(default_station(where), where),
    )
    click.echo(version_words())
    left = 0
    for check in checks:
        for found in check():
            left += found.mark is Urgency.LOOK
            click.echo(f"{found.mark.value:<{WIDE}}{found.what}: {found.words}")
    return 1 if left else 0


SCREEN = "from reckoner.ui.frame import application\nprint(application([]).platformName())"
VOICE = """
from PyQt6.QtCore import QCoreApplication, QObject
from reckoner.core.errors import Refused
from reckoner.ui.speech import desktop_voice
application = QCoreApplication([])
try:
    desktop_voice(QObject(), lambda why: None)
except Refused as refusal:
    raise SystemExit(str(refusal))
"""


def _in_a_process(script: str) -> tuple[bool, str]:
    """Whether it ends well elsewhere, for what it loads may end the program; and its last line."""
    try:
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=CHILD_S)
    except subprocess.TimeoutExpired:
        return False, tr("it does not answer")
    lines = [line for line in (done.stdout + done.stderr).splitlines() if line.strip()]
    if done.returncode == 0:
        return True, lines[-1]
    return False, " ".join(lines) or tr("it ended with {status}", status=done.returncode)


def _screen() -> Iterator[MachineCheck]:
    well, told = _in_a_process(SCREEN)
    yield _seen(tr("Screen"), tr("a window can open ({platform})", platform=told) if well else told, fine=well)


def _voice() -> Iterator[MachineCheck]:
    well, told = _in_a_process(VOICE)
    words = tr("the bench can speak") if well else tr("{why} Everything else works without.", why=told)
    yield MachineCheck(tr("Voice"), words, Urgency.FINE if well else Urgency.WITHOUT)


def _ports() -> Iterator[MachineCheck]:
    from reckoner.meters.dial import serial_ports

    ports = serial_ports()
    if not ports:
        told = tr("none is there; a meter with a cable shows here once it is plugged in")
        yield MachineCheck(tr("Serial ports"), told, Urgency.WITHOUT)
    for port in ports:
        path = Path(port.device)
        told = f"{port.device} {port.description}".strip()
        if os.access(path, os.R_OK | os.W_OK):
            yield MachineCheck(tr("Serial port"), tr("{told} can be used", told=told))
            continue
        yield _seen(
            tr("Serial port"),
            tr(
                "{told} is closed to {user}; an administrator opens it with “usermod -aG {group} {user}”, then log in anew",
                told=told,
                user=getpass.getuser(),
                group=_group_of(path),
            ),
            fine=False,
        )


def _group_of(path: Path) -> str:
    try:
        return grp.getgrgid(path.stat().st_gid).gr_name
    except (OSError, KeyError):
        return "dialout"


def _folder(where: Path) -> Iterator[MachineCheck]:
    from reckoner.store.files import DATABASE

    what = tr("Folder")
    there = next((folder for folder in (where, *where.parents) if folder.is_dir()), None)
    if there is None or not os.access(there, os.W_OK | os.X_OK):
        yield _seen(what, tr("{where} cannot be written; name another with --data", where=where), fine=False)
        return
    free = shutil.disk_usage(there).free
    words = tr("{where}, {free:.1f} GB free", where=where, free=free / 1e9)
    if free < ROOM:
        words = tr("{words}: make room, or readings cannot be kept", words=words)
    yield _seen(what, words, fine=free >= ROOM)
    path = where / DATABASE
    if path.is_file() and path.stat().st_mode & (stat.S_IRWXG | stat.S_IRWXO):
        told = tr("others on this machine may read it, or write it: “chmod 600 {path}” closes it to them", path=path)
        yield _seen(tr("Rights"), told, fine=False)


def _database(where: Path) -> Iterator[MachineCheck]:
    from reckoner.store.database import Database
    from reckoner.store.files import DATABASE, check, look_at

    what, path = tr("Database"), where / DATABASE
    if not path.exists():
        yield MachineCheck(what, tr("none is there yet; the window begins one"))
        return
    try:
        look_at(path)
        check(path)
        database = Database(where, looking_on=True)
    except (Refused, OSError) as fault:
        yield _seen(what, str(fault), fine=False)
        return
    try:
        yield MachineCheck(what, tr("read through: it is whole, {size:.1f} MB", size=path.stat().st_size / 1e6))
        yield from _records(database)
    finally:
        database.close()


def _records(database: Database) -> Iterator[MachineCheck]:
    from reckoner.shop.people.present import newest_time
    from reckoner.shop.records import checking
    from reckoner.shop.words.results import finding_sentence
    from reckoner.store import chain

    with database.session() as session:
        newest = chain.newest(session.connection())
        links = newest.place if newest is not None else 0
        if links > WALKED:
            told = tr("it has {links} links, too many to walk here: “reckoner verify --records” does", links=links)
            yield MachineCheck(tr("Records"), told)
        else:
            found = [one for one in checking.walk(session) if isinstance(one, checking.CheckFinding)]
            found += checking.what_follows(session)
            told = tr("{links} links walked: everything is as it was kept", links=links)
            if found:
                told = tr(
                    "{first} “reckoner verify --records” names everything ({count}).",
                    first=finding_sentence(found[0]),
                    count=len(found),
                )
            yield _seen(tr("Records"), told, fine=not found)
    with database.reading() as reader:
        last = newest_time(reader)
    now = times.present()
    if last is not None and last > now + FORWARD:
        told = tr(
            "it says {now}, and the newest record is of {last}: set it, so that days are right",
            now=moment_words(now),
            last=moment_words(last),
        )
        yield _seen(tr("Clock"), told, fine=False)
    else:
        yield MachineCheck(tr("Clock"), moment_words(now))


def _station(path: Path, where: Path) -> Iterator[MachineCheck]:
    from reckoner.store.backup import backups_in
    from reckoner.store.logs import log_path
    from reckoner.store.station import Station

    settings = Station(path).settings
    holder = next(folder for folder in path.parents if folder.is_dir())
    well = os.access(path if path.exists() else holder, os.W_OK)
    told = str(path) if well else tr("{path} cannot be written, so nothing set here is remembered", path=path)
    yield _seen(tr("This station's settings"), told, fine=well)
    what = tr("Backups")
    if not settings.backups:
        told = tr("this station keeps no daily one: choose a folder on another drive under Records, Backups")
        yield _seen(what, told, fine=False)
    else:
        into = Path(settings.backups)
        kept = backups_in(into)
        if not kept:
            yield _seen(what, tr("there is none in {into}; look whether its drive is there", into=into), fine=False)
        else:
            old = times.present() - kept[0].at > OLD_BACKUP
            told = tr("the newest in {into} is of {on}", into=into, on=day_words(kept[0].at.date()))
            same = where.exists() and into.stat().st_dev == where.stat().st_dev
            if old:
                told = tr("{told}: open the window once a day, or look at that drive", told=told)
            elif same:
                told = tr("{told}; it is on the same disk as the records, and would be lost with it", told=told)
            yield _seen(what, told, fine=not old and not same)
    yield MachineCheck(tr("Faults"), tr("are noted in {path}", path=log_path()))
