"""Whatever is recorded is told to all servers at once"""

from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.execute(
        """
        CREATE FUNCTION tell_of_change() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            NOTIFY zembric_change;
            RETURN NULL;
        END $$
        """
    )
    op.execute(
        "CREATE TRIGGER tell_of_change AFTER INSERT ON happening FOR EACH STATEMENT EXECUTE FUNCTION tell_of_change()"
    )
