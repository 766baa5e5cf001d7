"""What several tests of the bench begin with."""

import pytest

from reckoner.shop.register import registerfile as register
from reckoner.shop.register.intake import take_in
from reckoner.store.database import Database
from tests.support.clock import NOW
from tests.support.pounds import POUNDS


@pytest.fixture
def pounds(tmp_path):
    folder = tmp_path / "own"
    database = Database(folder)
    with database.session() as session:
        take_in(session, register.parse(POUNDS), NOW)
    yield folder, database
    database.close()
