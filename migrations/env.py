"""Alembic's entry: runs on the connection it is handed, all that is missing in one transaction: all of it is there after, or nothing."""

from alembic import context

from zembric.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
