"""The workshop: jobs with their histories, shelves, preferences; kept in a file with its lock, upgrades and backups."""

from orvek.store.demo import demo_job, demo_shop, fill_with_demo
from orvek.store.sqlite.backups import Backup, back_up, backups_of, daily_backup, newest_usable
from orvek.store.sqlite.file import WorkshopFile
from orvek.store.sqlite.opening import open_workshop, saved_elsewhere, take_over
from orvek.store.sqlite.restoring import put_in_place
from orvek.store.workshop import HistoryState, JobEntry, OpenedJob, Workshop

__all__ = [
    "Backup",
    "HistoryState",
    "JobEntry",
    "OpenedJob",
    "Workshop",
    "WorkshopFile",
    "back_up",
    "backups_of",
    "daily_backup",
    "demo_job",
    "demo_shop",
    "fill_with_demo",
    "newest_usable",
    "open_workshop",
    "put_in_place",
    "saved_elsewhere",
    "take_over",
]
