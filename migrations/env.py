"""Alembic's entry: runs on the connection it is handed."""

from alembic import context

from zembric.models import Base

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=Base.metadata, transaction_per_migration=True)
with context.begin_transaction():
    context.run_migrations()
