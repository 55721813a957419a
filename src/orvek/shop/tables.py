"""The tables of a workshop file, as SQLAlchemy sees them. Bodies are the documents' own JSON.

A change here needs a new migration in migrations/versions and its number in `HEAD`; a test holds both together.
"""

from __future__ import annotations

from sqlalchemy import Column, ForeignKey, Integer, LargeBinary, MetaData, String, Table, Text

HEAD = "0002"

metadata = MetaData()

shelf = Table(
    "shelf",
    metadata,
    Column("kind", String(20), primary_key=True),
    Column("position", Integer, primary_key=True),
    Column("body", Text, nullable=False),
)

setting = Table(
    "setting",
    metadata,
    Column("key", String(40), primary_key=True),
    Column("body", Text, nullable=False),
)

# `version_now` is the place in the job's history: undo lowers it, redo raises it, a new deed cuts off what
# lies above.
job = Table(
    "job",
    metadata,
    Column("id", String(12), primary_key=True),
    Column("name", String(80), nullable=False),
    Column("version_now", Integer, nullable=False),
    Column("changed_at", String(32), nullable=False),
)

job_version = Table(
    "job_version",
    metadata,
    Column("job_id", String(12), ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
    Column("number", Integer, primary_key=True),
    Column("deed", String(120), nullable=False),
    Column("body", Text, nullable=False),
    Column("made_at", String(32), nullable=False),
)

# What jobs keep as it is (pictures), each once, by its SHA-256; job bodies name it.
content = Table(
    "content",
    metadata,
    Column("digest", String(64), primary_key=True),
    Column("body", LargeBinary, nullable=False),
)
