"""Kills the program in the middle of what it does, again and again, and looks at what is left.

    python tools/kill_acts.py 300                  every act so many times
    python tools/kill_acts.py 20 signing lending   these alone

Each act runs in a process of its own and is killed at a random moment of the time that it takes. Afterwards the database is
opened as a window opens it: it must be whole, its chain unbroken and all in it as it was kept; what was told as done must
be there, and nothing half done beside it.
"""

from __future__ import annotations

import json
import os
import random
import shutil
import sqlite3
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from multiprocessing import get_context
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import TextIO

sys.path.append(str(Path(__file__).parents[1]))

import pytest
from tests.support.clock import NOW
from tests.support.runs import REGISTER
from tests.support.versions import with_a_second_version

from reckoner.demo import shipped
from reckoner.formats import exchange
from reckoner.shop.opening import open_shop
from reckoner.shop.records import checking, exporting
from reckoner.store.backup import RESTORING, back_up, is_whole
from reckoner.store.database import FILE, Database
from reckoner.store.files import check
from reckoner.store.reader import reader_of

LOADS = """
import sys
from datetime import timedelta
from pathlib import Path
from reckoner.formats import exchange
from reckoner.shop.opening import open_shop
from reckoner.shop.people.authorship import Act
from reckoner.shop.records import exporting, storage
from reckoner.shop.records.importing_exchange import take_over
from reckoner.shop.register import editing, registerfile
from reckoner.shop.register.intake import take_in
from reckoner.shop.register.shopfields import SHOP_FIELDS
from reckoner.shop.runs import signing, taking
from reckoner.shop.using import lending, working
from reckoner.store import migrate, revisions
from reckoner.store.backup import back_up, restore
from reckoner.store.reader import reader_of
from reckoner.store.schema import Trace
from reckoner.store.terms import RegisterKind
from tests.support.clock import NOW
from tests.support.runs import prepared, read_all, tool_id, tool_id_in
"""

BEGINS = """
folder, beside, act = Path(sys.argv[1]), Path(sys.argv[2]), Act(1, NOW)
later = Act(1, NOW + timedelta(hours=2))
def begin():
    print("begins", flush=True)
"""


@dataclass(frozen=True)
class KilledAct:
    """What is done before ``begin()`` and after it, in the child; ``counted`` is what it adds one of (SQL), where it adds to
    the database; ``begins_with`` the state that it finds: the demo, nothing, or a demo to be upgraded."""

    script: str
    counted: str = "SELECT 0"
    begins_with: str = "demo"


IN_A_SESSION = """d = open_shop(folder)
with d.session() as s:
    {before}
begin()
with d.session() as s:
    {then}
d.close()"""


def within(before: str, then: str) -> str:
    """The script of an act that is one unit of work, after another one."""
    return IN_A_SESSION.format(before=before, then=then)


ACTS = {
    "opening": KilledAct("begin()\nopen_shop(folder).close()", begins_with="nothing"),
    "upgrade": KilledAct(
        "revisions.MIGRATIONS = beside / 'migrations'\nbegin()\nopen_shop(folder).close()", begins_with="old"
    ),
    "restore": KilledAct("begin()\nrestore(beside / 'backup.sqlite', folder, NOW)"),
    "backup": KilledAct("begin()\nback_up(folder, folder / 'copy.sqlite')"),
    "archive": KilledAct(
        within(
            "run = read_all(s, prepared(s, tool_id(d, 'HC-0417'), act), act, 0.99)\n"
            "    for seen in run.series[0].observations:\n"
            "        s.add(Trace(observation_id=seen.id, rate=1000.0, samples=bytes(400_000)))\n"
            "    years = next(field for field in SHOP_FIELDS if field.name == 'trace_years')\n"
            "    editing.change(s, RegisterKind.SHOP, editing.the_shop(s), years, 1, act)",
            "storage.archive(s, Act(1, NOW.replace(year=2031)))",
        ),
        "SELECT count(*) > 0 FROM trace WHERE archived <> ''",
    ),
    "import": KilledAct(
        within("parsed = registerfile.parse((beside / 'register.toml').read_text())", "take_in(s, parsed, NOW, act)"),
        "SELECT count(*) FROM tool WHERE number = 'W-1'",
    ),
    "exchange": KilledAct(
        within("parsed = exchange.load(beside / 'exchange.json')", "take_over(s, parsed, act, 'exchange.json')"),
        "SELECT count(*) FROM tool WHERE number = 'ZZ-0417'",
    ),
    "signing": KilledAct(
        within("run = read_all(s, prepared(s, tool_id(d, 'HC-0417'), act), act, 0.99)", "signing.sign(s, run.id, later)"),
        "SELECT count(*) FROM signature WHERE at > '2026-11-24'",
    ),
    "job card": KilledAct(
        within("work = reader_of(s).value('SELECT max(id) FROM job_work')", "working.give_up(s, work, later, 'killed')"),
        "SELECT count(*) FROM job_close",
    ),
    "lending": KilledAct(
        within("tool = tool_id_in(s, 'HC-0417')", "lending.lend(s, (tool,), 'Tower crew', None, (), act)"),
        "SELECT count(*) FROM tool_event WHERE at > '2026-11-24' AND kind = 'lent'",
    ),
    "mid-run": KilledAct(
        "d = open_shop(folder)\n"
        "with d.session() as s: run = prepared(s, tool_id(d, 'HC-0417'), act)\n"
        "begin()\n"
        "for _ in range(15):\n"
        "    with d.session() as s: run = taking.observe(s, run.id, taking.typed(run.current.target * 0.99), act, run)\n"
        "    print('kept', flush=True)\n"
        "d.close()",
        "SELECT count(*) FROM observation WHERE at > '2026-11-24'",
    ),
}  # fmt: skip

WINDOW = """
import os
from PyQt6.QtTest import QTest
from reckoner.__main__ import Meters, opening_of
from reckoner.cli.options import WindowOptions
from reckoner.ui.app import make_window
from reckoner.ui.frame import application
from reckoner.ui.places import PlaceId
from reckoner.ui.theme import Theme
from tests.support.hands import ENTER, click, go, press, type_in
"""
"""What is loaded for an act in a window beside the rest; the window itself is made in the process of the act."""

IN_A_WINDOW = """
os.environ["QT_QPA_PLATFORM"] = "offscreen"
app = application([])
window = make_window(
    opening_of(WindowOptions(folder, demo=False, today=None, dark=False), lambda reference, link: ""), Theme(app)
)
window.frame.show()
window.around.work.start()
def live(until):
    while not until():
        app.processEvents()
live(lambda: window.around.person is not None and window.idle)
"""

ACTS |= {
    "window: job card": KilledAct(
        WINDOW + IN_A_WINDOW + "go(window, 'setting', work=1)\n"
        "live(lambda: window.idle and window.current.work.state is not None)\n"
        "work = window.current.work\n"
        "begin()\n"
        "for _ in range(8):\n"
        "    done = work.state.stand.done\n"
        "    work.button.setFocus()\n"
        "    press(window, ENTER)\n"
        "    live(lambda: work.state.stand.done > done and window.idle)\n"
        "    print('kept', flush=True)\n",
        "SELECT count(*) FROM job_entry",
    ),
    "window: lending": KilledAct(
        WINDOW + IN_A_WINDOW + "go(window, 'desk')\n"
        "live(lambda: window.idle)\n"
        "shelf = window.current.lending\n"
        "begin()\n"
        "for number in ('0417', '0418', '0303'):\n"
        "    shelf.scan.setFocus()\n"
        "    type_in(window, number)\n"
        "    press(window, ENTER)\n"
        "    live(lambda: len(shelf.form.basket.tools) == 1 and window.idle)\n"
        "    shelf.form.to.line.setText('Tower crew')\n"
        "    click(shelf.button)\n"
        "    live(lambda: not shelf.form.basket.tools and window.idle)\n"
        "    print('kept', flush=True)\n",
        "SELECT count(*) FROM tool_event WHERE kind = 'lent'",
    ),
    "window: restore": KilledAct(
        WINDOW + IN_A_WINDOW + "go(window, 'records')\n"
        "live(lambda: window.idle)\n"
        "shelf = window.current.backups\n"
        "shelf.look_at(beside / 'backup.sqlite')\n"
        "live(lambda: shelf.back_button.isEnabled())\n"
        "begin()\n"
        "click(shelf.back_button)\n"
        "live(lambda: 'is put back' in window.foot.words)\n",
    ),
}


def prepare(beside: Path) -> None:
    """What the acts find: a whole demo, a backup of it, what is to be brought in, and a newer version of the tables."""
    shipped.put(beside / "demo")
    open_shop(beside / "demo").close()
    back_up(beside / "demo", beside / "backup.sqlite")
    (beside / "register.toml").write_text(REGISTER, encoding="utf-8")
    database = Database(beside / "demo", looking_on=True)
    with database.session() as session:
        everything = exporting.exchange(reader_of(session), NOW)
    database.close()
    text = str(json.dumps(everything, ensure_ascii=False)).replace("HC-0", "ZZ-0")
    (beside / "exchange.json").write_text(text, encoding="utf-8")
    exchange.load(beside / "exchange.json")
    with pytest.MonkeyPatch.context() as patch:
        with_a_second_version(patch, beside / "migrations")


@contextmanager
def begun(act: KilledAct, folder: Path, beside: Path) -> Iterator[tuple[BaseProcess, TextIO]]:
    """A program that has begun an act, and what it says; its first line is read."""
    reading, writing = os.pipe()
    child = get_context("fork").Process(target=_do, args=(act, folder, beside, writing))
    child.start()
    os.close(writing)
    with open(reading, encoding="utf-8") as said:
        if said.readline() != "begins\n":
            raise SystemExit(f"an act did not begin: {act.script}")
        yield child, said
    child.join()


def _do(act: KilledAct, folder: Path, beside: Path, writing: int) -> None:
    sys.stdout = os.fdopen(writing, "w")
    names: dict[str, object] = {}
    sys.argv = ["act", str(folder), str(beside)]
    exec(f"{LOADS}{BEGINS}{act.script}\nprint('done', flush=True)\n", names)


def lasted(act: KilledAct, folder: Path, beside: Path) -> float:
    """Seconds that an act takes where nobody kills it."""
    with begun(act, folder, beside) as (_child, said):
        start = time.monotonic()
        if "done\n" not in said:
            raise SystemExit(f"it does not end by itself: {act.script}")
        return time.monotonic() - start


def wrong_with(act: KilledAct, folder: Path, beside: Path, told: list[str], before: int) -> list[str]:
    """What is wrong with what a killed act has left; ``told`` is what it said before."""
    said = []
    try:
        with pytest.MonkeyPatch.context() as patch:
            if act.begins_with == "old":
                with_a_second_version(patch, beside / "migrations")
            database = open_shop(folder, alone=True)
    except Exception as fault:  # noqa: BLE001 - whatever it is, it is what is looked for
        return [f"it does not open: {fault}"]
    with database.session() as session:
        said += [f"{found}" for found in checking.walk(session) if isinstance(found, checking.CheckFinding)]
        said += [f"{found}" for found in checking.what_follows(session)]
        added = int(session.connection().exec_driver_sql(act.counted).scalar() or 0) - before
    database.close()
    check(folder / FILE)
    kept = told.count("kept") or ("done" in told and act.counted != "SELECT 0")
    if added < kept:
        said.append(f"{kept} were told as kept, {added} are there")
    copy = folder / "copy.sqlite"
    if copy.exists() and not is_whole(copy):
        said.append("the backup is not whole")
    left = [path.name for path in folder.iterdir() if path.name.startswith(RESTORING)]
    return said + [f"left behind: {name}" for name in left]


def fresh(act: KilledAct, folder: Path, beside: Path) -> int:
    """The state that an act finds; how many there are of what it adds."""
    shutil.rmtree(folder, ignore_errors=True)
    if act.begins_with == "nothing":
        return 0
    folder.mkdir()
    shutil.copy(beside / "demo" / FILE, folder / FILE)
    with closing(sqlite3.connect(folder / FILE)) as connection:
        return int(connection.execute(act.counted).fetchone()[0])


def main(times: int, names: list[str]) -> int:
    """Kill each act so often; 1 where anything was wrong."""
    wrong = 0
    exec(f"{LOADS}{WINDOW}", {})  # loaded here, once for all of them
    with tempfile.TemporaryDirectory() as made:
        beside, folder = Path(made), Path(made) / "shop"
        prepare(beside)
        for name, act in ACTS.items():
            if names and name not in names:
                continue
            before = fresh(act, folder, beside)
            seconds, ended, said = lasted(act, folder, beside), Counter[str](), []
            for seed in range(times):
                before = fresh(act, folder, beside)
                with begun(act, folder, beside) as (child, spoken):
                    time.sleep(random.Random(seed).uniform(0, 1.05 * seconds))
                    child.kill()
                    told = spoken.read().split()
                ended["done before" if "done" in told else "killed"] += 1
                said += [f"seed {seed}: {sentence}" for sentence in wrong_with(act, folder, beside, told, before)]
            wrong += len(said)
            print(
                f"{name:17} {ended['killed']:4} killed {ended['done before']:4} done before {len(said):3} wrong",
                flush=True,
            )
            for sentence in said[:5]:
                print(f"          {sentence}")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 10, sys.argv[2:]))
