"""Words in what people wrote are found without reading all of it, where the server has what it takes"""

from alembic import op

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None

_BY_THREE_LETTERS = """
DO $$ BEGIN
    IF EXISTS (SELECT FROM pg_available_extensions WHERE name = 'pg_trgm') THEN
        CREATE EXTENSION IF NOT EXISTS pg_trgm;
        CREATE INDEX ix_donor_description_words ON donor USING gin (description gin_trgm_ops);
        CREATE INDEX ix_cell_own_label_words ON cell USING gin (own_label gin_trgm_ops) WHERE own_label IS NOT NULL;
        CREATE INDEX ix_cell_in_use_in_words ON cell USING gin (in_use_in gin_trgm_ops) WHERE in_use_in IS NOT NULL;
    END IF;
EXCEPTION WHEN insufficient_privilege THEN
    RAISE NOTICE 'Search reads all words: the database may not have pg_trgm.';
END $$
"""


def upgrade() -> None:
    op.execute(_BY_THREE_LETTERS)
