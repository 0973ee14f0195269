"""Sign-ins live on the server, passkeys beside passwords, and what was signed in or refused is found in the record"""

import sqlalchemy as sa
from alembic import op

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "sign_in",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("challenge_hash", sa.LargeBinary(), nullable=True),
        sa.Column("device", sa.Text(), nullable=False),
        sa.Column("begun_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ends_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("ended_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_sign_in_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_sign_in_token_hash")),
        sa.UniqueConstraint("challenge_hash", name=op.f("uq_sign_in_challenge_hash")),
    )
    op.create_index(op.f("ix_sign_in_person_id"), "sign_in", ["person_id"])
    op.create_table(
        "passkey",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("credential_id", sa.LargeBinary(), nullable=False),
        sa.Column("public_key", sa.LargeBinary(), nullable=False),
        sa.Column("host", sa.Text(), nullable=False),
        sa.Column("sign_count", sa.Integer(), nullable=False),
        sa.Column("device", sa.Text(), nullable=False),
        sa.Column("added_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_passkey_person_id_person")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_passkey")),
        sa.UniqueConstraint("credential_id", name=op.f("uq_passkey_credential_id")),
    )
    op.create_index(op.f("ix_passkey_person_id"), "passkey", ["person_id"])
    op.create_index("ix_happening_sign_ins", "happening", ["id"], postgresql_where=sa.text("what LIKE 'sign-in%'"))
