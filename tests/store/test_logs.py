"""The log as a file."""

import logging
import stat

from reckoner.store.logs import keep_log


def test_the_log_is_the_owners_alone(tmp_path):
    path = tmp_path / "deep" / "reckoner.log"
    handler = keep_log(path)
    assert handler is not None
    try:
        logging.getLogger("reckoner.store").warning("the disk hums")
        assert "the disk hums" in path.read_text(encoding="utf-8")
        assert stat.S_IMODE(path.stat().st_mode) == 0o600
        assert stat.S_IMODE(path.parent.stat().st_mode) == 0o700
    finally:
        logging.getLogger().removeHandler(handler)
        handler.close()


def test_a_log_that_cannot_be_kept_stops_nothing(tmp_path):
    (tmp_path / "file").write_text("in the way", encoding="utf-8")
    assert keep_log(tmp_path / "file" / "reckoner.log") is None
