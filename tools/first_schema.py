"""Write the first revision anew from the tables as they are declared. Only until the first release: from then on a revision
that was released is never edited, and a change of the tables is a new one.

`make first-schema`, then `make demo-data`, for the demo's database ships with the package.
"""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from alembic.autogenerate import produce_migrations, render_python_code
from alembic.migration import MigrationContext
from sqlalchemy import TypeDecorator, create_engine

from reckoner.store.schema import Base

PLACE = Path(__file__).parents[1] / "src/reckoner/store/migrations/versions/0001_first.py"

HEAD = '''"""First schema"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    '''


def rendered(kind: str, thing: object, _context: object) -> str | bool:
    """A column's type as the database has it, whatever Python makes of it."""
    return f"sa.{thing.impl!r}" if kind == "type" and isinstance(thing, TypeDecorator) else False


def main() -> None:
    """Render what an empty database lacks."""
    with create_engine("sqlite://").connect() as connection:
        context = MigrationContext.configure(connection)
        script = produce_migrations(context, Base.metadata)
    if script.upgrade_ops is None:
        raise SystemExit("nothing is declared")
    lines = render_python_code(script.upgrade_ops, render_item=rendered).splitlines()
    PLACE.write_text(HEAD + "\n".join(line for line in lines if "###" not in line).strip() + "\n", encoding="utf-8")
    subprocess.run([Path(sys.executable).with_name("ruff"), "format", "--quiet", PLACE], check=True)
    print(PLACE)


if __name__ == "__main__":
    main()
