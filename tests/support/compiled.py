"""SQL compiled once for all the databases that a process of the tests opens: each engine would compile its own."""

from functools import partial

from sqlalchemy import create_engine


class Compiled(dict):
    """Statements by their shape, whichever engine's dialect asks: all of them are the same."""

    def get(self, key, default=None):
        return super().get(key[1:], default)

    def __setitem__(self, key, compiled):
        super().__setitem__(key[1:], compiled)


sharing_engine = partial(create_engine, execution_options={"compiled_cache": Compiled()})
"""As ``create_engine``, for SQLite alone."""
