"""A row of a shelf has an id of its own and counts its changes: what changed is written, not the whole shelf."""

import secrets

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    rows = sa.table(
        "shelf_rows", sa.column("id"), sa.column("kind"), sa.column("position"), sa.column("version"), sa.column("body")
    )
    op.create_table(
        "shelf_rows",
        sa.Column("id", sa.String(12), primary_key=True),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("position", sa.Integer, nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("body", sa.Text, nullable=False),
    )
    kept = op.get_bind().execute(sa.text("select kind, position, body from shelf order by kind, position")).all()
    op.bulk_insert(rows, [{"id": secrets.token_hex(6), "version": 0, **row._mapping} for row in kept])
    op.drop_table("shelf")
    op.rename_table("shelf_rows", "shelf")
