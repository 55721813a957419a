"""Alembic's entry: runs the upgrades over the connection it is handed. See store/sqlite/upgrading.py."""

from alembic import context

connection = context.config.attributes["connection"]
context.configure(connection=connection, transaction_per_migration=False)
with context.begin_transaction():
    context.run_migrations()
