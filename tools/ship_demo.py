"""Write the demo's database anew into the package: `make demo-data`, after a change of the scenario or of the tables."""

from __future__ import annotations

import gzip
import sqlite3
import tempfile
from pathlib import Path

import reckoner.demo
from reckoner.demo.build import build
from reckoner.demo.shipped import NAME
from reckoner.shop.opening import open_shop
from reckoner.store.database import FILE


def main() -> None:
    with tempfile.TemporaryDirectory() as place:
        database = open_shop(Path(place))
        build(database)
        database.close()
        connection = sqlite3.connect(Path(place) / FILE)
        connection.execute("VACUUM")
        connection.close()
        whole = (Path(place) / FILE).read_bytes()
    made = Path(reckoner.demo.__file__).parent / NAME
    made.write_bytes(gzip.compress(whole, mtime=0))
    print(f"{made.name}: {len(whole)} bytes, {made.stat().st_size} as shipped")


if __name__ == "__main__":
    main()
