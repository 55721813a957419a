"""The workshop file: jobs with their histories, shelves, preferences; its lock, upgrades and backups."""

from orvek.shop.demo import demo_job, demo_shop, fill_with_demo
from orvek.shop.workshop import HistoryState, JobEntry, Workshop, open_workshop

__all__ = ["HistoryState", "JobEntry", "Workshop", "demo_job", "demo_shop", "fill_with_demo", "open_workshop"]
