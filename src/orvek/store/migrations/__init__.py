"""Upgrades of the workshop file, one named step a version, run by Alembic after a backup."""
