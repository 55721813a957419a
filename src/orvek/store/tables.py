"""The tables of a new workshop file, as all migrations together make them; a test holds both together.

A new file is made from here: to load what changes the tables of an older one takes most of a second. `job.version_now`
is the place in the job's history: undo lowers it, redo raises it, a new deed cuts off what lies above. Bodies are the
documents' own JSON; `content` holds what jobs keep as it is (pictures), each once, by its SHA-256, and job bodies
name it.
"""

from __future__ import annotations

VERSIONS = ("0001", "0002")  # those of migrations/versions
HEAD = VERSIONS[-1]
TABLES = (
    """create table alembic_version (
        version_num varchar(32) not null, constraint alembic_version_pkc primary key (version_num)
    )""",
    """create table shelf (
        kind varchar(20) not null, position integer not null, body text not null, primary key (kind, position)
    )""",
    """create table setting (
        "key" varchar(40) not null, body text not null, primary key ("key")
    )""",
    """create table job (
        id varchar(12) not null, name varchar(80) not null, version_now integer not null,
        changed_at varchar(32) not null, primary key (id)
    )""",
    """create table job_version (
        job_id varchar(12) not null, number integer not null, deed varchar(120) not null, body text not null,
        made_at varchar(32) not null, primary key (job_id, number),
        foreign key(job_id) references job (id) on delete cascade
    )""",
    """create table content (
        digest varchar(64) not null, body blob not null, primary key (digest)
    )""",
)
