"""Pictures kept as they are, each once."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "content",
        sa.Column("digest", sa.String(64), primary_key=True),
        sa.Column("body", sa.LargeBinary, nullable=False),
    )
