"""Alembic's entry: runs revisions on the connection that ``store.migrate`` hands over."""

from alembic import context

from reckoner.store.schema import Base

context.configure(
    connection=context.config.attributes["connection"], target_metadata=Base.metadata, render_as_batch=True
)
with context.begin_transaction():
    context.run_migrations()
