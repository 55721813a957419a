"""The first workshop: shelves, settings, jobs and their histories."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "shelf",
        sa.Column("kind", sa.String(20), primary_key=True),
        sa.Column("position", sa.Integer, primary_key=True),
        sa.Column("body", sa.Text, nullable=False),
    )
    op.create_table(
        "setting",
        sa.Column("key", sa.String(40), primary_key=True),
        sa.Column("body", sa.Text, nullable=False),
    )
    op.create_table(
        "job",
        sa.Column("id", sa.String(12), primary_key=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("version_now", sa.Integer, nullable=False),
        sa.Column("changed_at", sa.String(32), nullable=False),
    )
    op.create_table(
        "job_version",
        sa.Column("job_id", sa.String(12), sa.ForeignKey("job.id", ondelete="CASCADE"), primary_key=True),
        sa.Column("number", sa.Integer, primary_key=True),
        sa.Column("deed", sa.String(120), nullable=False),
        sa.Column("body", sa.Text, nullable=False),
        sa.Column("made_at", sa.String(32), nullable=False),
    )
