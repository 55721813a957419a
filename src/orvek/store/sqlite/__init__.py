"""The workshop as one SQLite file on this machine: its lock, its journal, its backups, its upgrades."""
