"""Why a reference's known error is left in the readings"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.add_column("reference", sa.Column("error_left", sa.Text(), nullable=False, server_default=""))
