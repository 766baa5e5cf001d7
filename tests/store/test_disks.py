"""A full disk and a folder that cannot be written are called so, and are no damage: on small disks of memory of their own."""

import subprocess
import sys

import pytest

from reckoner.store.database import FILE

OWN_MOUNTS = ["unshare", "--map-root-user", "--mount", "--", "sh", "-c"]

SCRIPT = """
import shutil, sys
from pathlib import Path
from reckoner.shop.opening import open_shop
from reckoner.store.database import Database
from reckoner.store.errors import StoreRefused

where, act = Path(sys.argv[1]), sys.argv[2]
if act == "full":
    with (where / "everything else").open("wb", buffering=0) as file:
        try:
            while True:
                file.write(bytes(4096))
        except OSError:
            pass
before = sorted(path.name for path in where.iterdir())
for how in ("open", "look"):
    try:
        if how == "open":
            open_shop(where, alone=True).close()
        else:
            database = Database(where, looking_on=True)
            with database.reading() as reader:
                print(reader.value("SELECT count(*) FROM tool"), end=" ")
            database.close()
        print(how)
    except StoreRefused as refusal:
        print(type(refusal).__name__)
    if act == "first":
        break
left = {path.name for path in where.iterdir()} - {*before, "reckoner.sqlite-shm", "reckoner.sqlite-wal", "reckoner.lock"}
print("left", *left)
"""


def on_a_small_disk(folder, size, act, *steps):
    """What comes of opening, and of looking on, in a mount of its own; skipped where nobody may mount anything."""
    run = f'"{sys.executable}" -c "$0" "{folder}" {act}'
    shell = " && ".join((f'mount -t tmpfs -o size={size} tmpfs "{folder}"', *steps, run))
    if subprocess.run([*OWN_MOUNTS, f'mount -t tmpfs tmpfs "{folder}"'], capture_output=True).returncode:
        pytest.skip("this machine lets nobody mount a disk of memory")
    done = subprocess.run([*OWN_MOUNTS, shell, SCRIPT], capture_output=True, text=True)
    assert done.returncode == 0, done.stderr
    return done.stdout.splitlines()


@pytest.mark.parametrize(
    ("act", "steps", "told"),
    [
        ("full", (), ["DiskFull", "DiskFull", "left"]),
        ("closed", ('mount -o remount,ro "{}"',), ["DirectoryNotWritable", "46 look", "left"]),
    ],
)
def test_a_whole_database_on_a_bad_disk_is_not_called_damaged(tmp_path, built_demo, act, steps, told):
    disk = tmp_path / "disk"
    disk.mkdir()
    copied = f'cp "{built_demo / FILE}" "{disk}"'
    assert on_a_small_disk(disk, "20m", act, copied, *(step.format(disk) for step in steps)) == told


@pytest.mark.parametrize("size", ["8k", "64k", "300k", "500k"])
def test_a_first_opening_without_room_says_so_and_leaves_nothing(tmp_path, size):
    assert on_a_small_disk(tmp_path, size, "first") == ["DiskFull", "left"]
