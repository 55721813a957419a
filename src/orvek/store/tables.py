"""The tables of a workshop, declared once: every statement is made from them, and a new workshop is.

Older workshops are brought to them by `migrations/`; a test holds both together. `JOB.version_now` is the place in the
job's history: undo lowers it, redo raises it, a new deed cuts off what lies above. Bodies are the documents' own JSON;
`CONTENT` holds what jobs keep as it is (pictures), each once, by its SHA-256, and job bodies name it. A row of `SHELF`
keeps its id while the thing on it changes, and counts its changes.
"""

from __future__ import annotations

from sqlalchemy import (
    Column,
    ForeignKey,
    Integer,
    LargeBinary,
    MetaData,
    PrimaryKeyConstraint,
    String,
    Table,
    Text,
)

VERSIONS = ("0001", "0002", "0003")  # those of migrations/versions
HEAD = VERSIONS[-1]
METADATA = MetaData()

ALEMBIC_VERSION = Table(
    "alembic_version",
    METADATA,
    Column("version_num", String(32), nullable=False),
    PrimaryKeyConstraint("version_num", name="alembic_version_pkc"),
)
SHELF = Table(
    "shelf",
    METADATA,
    Column("id", String(12), primary_key=True),
    Column("kind", String(20), nullable=False),
    Column("position", Integer, nullable=False),
    Column("version", Integer, nullable=False),
    Column("body", Text, nullable=False),
)
SETTING = Table(
    "setting",
    METADATA,
    Column("key", String(40), primary_key=True),
    Column("body", Text, nullable=False),
)
JOB = Table(
    "job",
    METADATA,
    Column("id", String(12), primary_key=True),
    Column("name", String(80), nullable=False),
    Column("version_now", Integer, nullable=False),
    Column("changed_at", String(32), nullable=False),
)
JOB_VERSION = Table(
    "job_version",
    METADATA,
    Column("job_id", String(12), ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
    Column("number", Integer, primary_key=True),
    Column("deed", String(120), nullable=False),
    Column("body", Text, nullable=False),
    Column("made_at", String(32), nullable=False),
)
CONTENT = Table(
    "content",
    METADATA,
    Column("digest", String(64), primary_key=True),
    Column("body", LargeBinary, nullable=False),
)
