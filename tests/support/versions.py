"""A small shop in a database of its own, and a second version of the tables: how versions follow each other is proved by it
until one is released, and kept here for those that will be."""

import shutil
import sqlite3
from pathlib import Path

import pytest

from reckoner.shop.opening import open_shop
from reckoner.shop.people.authorship import Act
from reckoner.shop.register import registerfile as register
from reckoner.shop.register.intake import take_in
from reckoner.shop.runs import opening, signing
from reckoner.store import revisions
from reckoner.store.database import FILE
from tests.support.clock import NOW
from tests.support.runs import REGISTER, later, looked_over, prepared, read_all, tool_id_in

SHOP = (
    REGISTER.replace("[[references]]", '[[tools]]\nnumber = "W-2"\nmodel = "Skerrivane X-50"\n[[references]]')
    + """
[[references.certificates]]
number = "C-1"
laboratory = "L"
issued = "2026-03-02"
due = "2027-03-02"
points = [
  { torque = "5 N.m", error = "0.1 %", uncertainty = "0.4 %" },
  { torque = "50 N.m", error = "0.2 %", uncertainty = "0.4 %" },
]
"""
)

NEXT = '''"""A second version: a column more, and a table made anew."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.add_column("tool", sa.Column("colour", sa.String(200), server_default="", nullable=False))
    with op.batch_alter_table("run", recreate="always") as run:
        run.add_column(sa.Column("noise", sa.Double(), nullable=True))
'''


def small_shop(folder: Path) -> None:
    """Two tools: one with a signed run, one with a run that goes on."""
    database, act = open_shop(folder), Act(1, NOW)
    with database.session() as session:
        take_in(session, register.parse(SHOP), NOW)
        run = read_all(session, prepared(session, tool_id_in(session, "W-1"), act), act, 0.99)
        signing.sign(session, run.id, later(act, 2))
        looked_over(session, opening.open_run(session, tool_id_in(session, "W-2"), act), act)
    database.close()
    with sqlite3.connect(folder / FILE) as connection:
        connection.execute("PRAGMA journal_mode = DELETE")
    connection.close()


def with_a_second_version(patch: pytest.MonkeyPatch, folder: Path) -> Path:
    """From now on the program has a second revision, whose files lie in ``folder``."""
    if not folder.exists():
        shutil.copytree(revisions.MIGRATIONS, folder, ignore=shutil.ignore_patterns("__pycache__"))
        (folder / "versions" / "0002_next.py").write_text(NEXT, encoding="utf-8")
    patch.setattr(revisions, "MIGRATIONS", folder)
    return folder
