"""First tables"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


# Tables that only grow: what was said stays said. Cells, packs and people change state and carry a version instead.
APPEND_ONLY = ("entry", "inspection", "reading", "step", "judgement", "happening", "rule_set")


def upgrade() -> None:
    for name, start in (("cell_number_seq", 100), ("donor_number_seq", 10), ("pack_number_seq", 10)):
        op.execute(sa.schema.CreateSequence(sa.Sequence(name, start=start)))
    op.create_table(
        "person",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("role", sa.Text(), nullable=False),
        sa.Column("password_hash", sa.Text(), nullable=True),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("closed_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("role IN ('coordinator', 'volunteer')", name=op.f("ck_person_role")),
        sa.CheckConstraint("char_length(name) BETWEEN 1 AND 40", name=op.f("ck_person_name_length")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
    )
    op.create_index("uq_person_name_lower", "person", [sa.literal_column("lower(name)")], unique=True)
    op.create_table(
        "place",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("rows", sa.Integer(), nullable=True),
        sa.Column("columns", sa.Integer(), nullable=True),
        sa.CheckConstraint(
            "(kind = 'tray') = (rows IS NOT NULL AND columns IS NOT NULL)", name=op.f("ck_place_only_trays_have_slots")
        ),
        sa.CheckConstraint("kind IN ('fire-safe-box', 'out-box', 'shelf-box', 'tray')", name=op.f("ck_place_kind")),
        sa.CheckConstraint("rows BETWEEN 1 AND 20 AND columns BETWEEN 1 AND 20", name=op.f("ck_place_tray_size")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_place")),
        sa.UniqueConstraint("name", name=op.f("uq_place_name")),
    )
    op.create_table(
        "server_secret",
        sa.Column("id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("secret", sa.LargeBinary(), nullable=False),
        sa.CheckConstraint("id = 1", name=op.f("ck_server_secret_only_one")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_server_secret")),
    )
    op.create_table(
        "sign_in_try",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("account", sa.Text(), nullable=False),
        sa.Column("address", sa.Text(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_try")),
    )
    op.create_index("ix_sign_in_try_account_at", "sign_in_try", ["account", "at"], unique=False)
    op.create_index("ix_sign_in_try_address_at", "sign_in_try", ["address", "at"], unique=False)
    op.create_table(
        "answered_request",
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("key", sa.Text(), nullable=False),
        sa.Column("request_hash", sa.Text(), nullable=False),
        sa.Column("status", sa.Integer(), nullable=False),
        sa.Column("answer", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.CheckConstraint("char_length(key) BETWEEN 8 AND 100", name=op.f("ck_answered_request_key_length")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_answered_request_person_id")),
        sa.PrimaryKeyConstraint("person_id", "key", name=op.f("pk_answered_request")),
    )
    op.create_index(op.f("ix_answered_request_at"), "answered_request", ["at"], unique=False)
    op.create_table(
        "donor",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("description", sa.Text(), nullable=False),
        sa.Column("opened_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("opened_by_id", sa.Integer(), nullable=False),
        sa.CheckConstraint("kind IN ('laptop', 'other', 'phone', 'power-tool', 'vape')", name=op.f("ck_donor_kind")),
        sa.CheckConstraint("char_length(description) <= 200", name=op.f("ck_donor_description_length")),
        sa.ForeignKeyConstraint(["opened_by_id"], ["person.id"], name=op.f("fk_donor_opened_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_donor")),
        sa.UniqueConstraint("number", name=op.f("uq_donor_number")),
    )
    op.create_table(
        "invitation",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("token_hash", sa.LargeBinary(), nullable=False),
        sa.Column("expires_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("used_at", sa.DateTime(timezone=True), nullable=True),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_invitation_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_invitation")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_invitation_token_hash")),
    )
    op.create_index(op.f("ix_invitation_person_id"), "invitation", ["person_id"], unique=False)
    op.create_table(
        "pack",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("purpose", sa.Text(), nullable=False),
        sa.Column("state", sa.Text(), nullable=False),
        sa.Column("series", sa.Integer(), nullable=False),
        sa.Column("parallel", sa.Integer(), nullable=False),
        sa.Column("bound_mah", sa.Double(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("made_by_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "state IN ('back', 'built', 'dropped', 'given-out', 'planned', 'taken-apart')", name=op.f("ck_pack_state")
        ),
        sa.CheckConstraint("char_length(purpose) BETWEEN 1 AND 120", name=op.f("ck_pack_purpose_length")),
        sa.CheckConstraint("series BETWEEN 1 AND 40 AND parallel BETWEEN 1 AND 40", name=op.f("ck_pack_shape")),
        sa.ForeignKeyConstraint(["made_by_id"], ["person.id"], name=op.f("fk_pack_made_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack")),
        sa.UniqueConstraint("number", name=op.f("uq_pack_number")),
    )
    op.create_index(op.f("ix_pack_state"), "pack", ["state"], unique=False)
    op.create_table(
        "rule_set",
        sa.Column("version", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("voltage_school", sa.Text(), nullable=False),
        sa.Column("grade_school", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("why", sa.Text(), nullable=False),
        sa.CheckConstraint("grade_school IN ('bins', 'fitness', 'health')", name=op.f("ck_rule_set_grade_school")),
        sa.CheckConstraint("voltage_school IN ('strict', 'thrifty', 'usual')", name=op.f("ck_rule_set_voltage_school")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_rule_set_person_id")),
        sa.PrimaryKeyConstraint("version", name=op.f("pk_rule_set")),
    )
    op.create_table(
        "cell",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("donor_id", sa.Integer(), nullable=False),
        sa.Column("size_code", sa.Text(), nullable=True),
        sa.Column("family", sa.Text(), nullable=True),
        sa.Column("full_v", sa.Double(), nullable=True),
        sa.Column("rated_capacity_mah", sa.Double(), nullable=True),
        sa.Column("claimed_capacity_mah", sa.Double(), nullable=True),
        sa.Column("place_id", sa.Integer(), nullable=True),
        sa.Column("slot", sa.Integer(), nullable=True),
        sa.Column("judgement_id", sa.Integer(), nullable=True),
        sa.Column("handed_over_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "family IN ('high-voltage-cobalt', 'iron-phosphate', 'layered-oxide', 'primary', 'titanate')",
            name=op.f("ck_cell_family"),
        ),
        sa.CheckConstraint("claimed_capacity_mah > 0", name=op.f("ck_cell_claimed_capacity_positive")),
        sa.CheckConstraint("full_v BETWEEN 2 AND 5", name=op.f("ck_cell_full_v")),
        sa.CheckConstraint("handed_over_at IS NULL OR place_id IS NULL", name=op.f("ck_cell_handed_over_is_nowhere")),
        sa.CheckConstraint("rated_capacity_mah > 0", name=op.f("ck_cell_rated_capacity_positive")),
        sa.CheckConstraint("slot IS NULL OR place_id IS NOT NULL", name=op.f("ck_cell_slot_needs_place")),
        sa.ForeignKeyConstraint(["donor_id"], ["donor.id"], name=op.f("fk_cell_donor_id")),
        sa.ForeignKeyConstraint(["place_id"], ["place.id"], name=op.f("fk_cell_place_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cell")),
        sa.UniqueConstraint("judgement_id", name=op.f("uq_cell_judgement_id")),
        sa.UniqueConstraint("number", name=op.f("uq_cell_number")),
    )
    op.create_index(op.f("ix_cell_donor_id"), "cell", ["donor_id"], unique=False)
    op.create_index(op.f("ix_cell_place_id"), "cell", ["place_id"], unique=False)
    op.create_index(
        "uq_cell_place_id_slot", "cell", ["place_id", "slot"], unique=True, postgresql_where=sa.text("slot IS NOT NULL")
    )
    op.create_table(
        "pack_group",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("pack_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_pack_group_pack_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_group")),
        sa.UniqueConstraint("pack_id", "number", name=op.f("uq_pack_group_pack_id_number")),
    )
    op.create_table(
        "entry",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("recorded_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("supersedes_id", sa.Integer(), nullable=True),
        sa.Column("why", sa.Text(), nullable=True),
        sa.CheckConstraint(
            "kind <> 'withdrawal' OR supersedes_id IS NOT NULL", name=op.f("ck_entry_withdrawal_names_entry")
        ),
        sa.CheckConstraint("kind IN ('inspection', 'reading', 'step', 'withdrawal')", name=op.f("ck_entry_kind")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_entry_cell_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_entry_person_id")),
        sa.ForeignKeyConstraint(
            ["supersedes_id", "cell_id"], ["entry.id", "entry.cell_id"], name="fk_entry_supersedes"
        ),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_entry")),
        sa.UniqueConstraint("id", "cell_id", name=op.f("uq_entry_id_cell_id")),
        sa.UniqueConstraint("supersedes_id", name=op.f("uq_entry_supersedes_id")),
    )
    op.create_index("ix_entry_cell_id_at", "entry", ["cell_id", "at"], unique=False)
    op.create_table(
        "happening",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=True),
        sa.Column("what", sa.Text(), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=True),
        sa.Column("donor_id", sa.Integer(), nullable=True),
        sa.Column("pack_id", sa.Integer(), nullable=True),
        sa.Column("details", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("why", sa.Text(), nullable=True),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_happening_cell_id")),
        sa.ForeignKeyConstraint(["donor_id"], ["donor.id"], name=op.f("fk_happening_donor_id")),
        sa.ForeignKeyConstraint(["pack_id"], ["pack.id"], name=op.f("fk_happening_pack_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_happening_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_happening")),
    )
    op.create_index(op.f("ix_happening_cell_id"), "happening", ["cell_id"], unique=False)
    op.create_index(op.f("ix_happening_pack_id"), "happening", ["pack_id"], unique=False)
    op.create_table(
        "judgement",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("rule_set_version", sa.Integer(), nullable=False),
        sa.Column("grade", sa.Text(), nullable=False),
        sa.Column("sure", sa.Text(), nullable=True),
        sa.Column("reasons", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("next_step", sa.Text(), nullable=False),
        sa.Column("next_text", sa.Text(), nullable=False),
        sa.Column("next_not_before", sa.DateTime(timezone=True), nullable=True),
        sa.Column("next_then", sa.Text(), nullable=True),
        sa.Column("resting_voltage_v", sa.Double(), nullable=True),
        sa.Column("capacity_mah", sa.Double(), nullable=True),
        sa.Column("capacity_u_mah", sa.Double(), nullable=True),
        sa.Column("capacity_method", sa.Text(), nullable=True),
        sa.Column("resistance_mohm", sa.Double(), nullable=True),
        sa.Column("resistance_u_mohm", sa.Double(), nullable=True),
        sa.Column("resistance_method", sa.Text(), nullable=True),
        sa.Column("continuous_current_a", sa.Double(), nullable=True),
        sa.Column("continuous_current_set_by", sa.Text(), nullable=True),
        sa.CheckConstraint("(grade = 'not-yet') = (sure IS NULL)", name=op.f("ck_judgement_graded_is_sure_or_not")),
        sa.CheckConstraint("grade IN ('A', 'B', 'C', 'not-yet', 'out')", name=op.f("ck_judgement_grade")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_judgement_cell_id")),
        sa.ForeignKeyConstraint(["rule_set_version"], ["rule_set.version"], name=op.f("fk_judgement_rule_set_version")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_judgement")),
    )
    op.create_index(op.f("ix_judgement_capacity_mah"), "judgement", ["capacity_mah"], unique=False)
    op.create_index(op.f("ix_judgement_cell_id"), "judgement", ["cell_id"], unique=False)
    op.create_index(op.f("ix_judgement_grade"), "judgement", ["grade"], unique=False)
    op.create_index(op.f("ix_judgement_next_step"), "judgement", ["next_step"], unique=False)
    op.create_index(op.f("ix_judgement_resistance_mohm"), "judgement", ["resistance_mohm"], unique=False)
    op.create_table(
        "pack_cell",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("group_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("cell_id", sa.Integer(), nullable=False),
        sa.Column("capacity_mah", sa.Double(), nullable=False),
        sa.Column("released_at", sa.DateTime(timezone=True), nullable=True),
        sa.CheckConstraint("capacity_mah > 0", name=op.f("ck_pack_cell_capacity_positive")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_pack_cell_cell_id")),
        sa.ForeignKeyConstraint(["group_id"], ["pack_group.id"], name=op.f("fk_pack_cell_group_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_pack_cell")),
        sa.UniqueConstraint("group_id", "position", name=op.f("uq_pack_cell_group_id_position")),
    )
    op.create_index(op.f("ix_pack_cell_cell_id"), "pack_cell", ["cell_id"], unique=False)
    op.create_index(
        "uq_pack_cell_live", "pack_cell", ["cell_id"], unique=True, postgresql_where=sa.text("released_at IS NULL")
    )
    op.create_table(
        "inspection",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("findings", sa.ARRAY(sa.Text()), nullable=False),
        sa.CheckConstraint(
            "findings <@ ARRAY['burnt', 'corroded-ends', 'dented', 'hiss', 'hot', 'leaking', 'punctured', 'rusted-through', 'swollen', 'tab-remains', 'torn-wrap', 'vent-open']::text[]",
            name=op.f("ck_inspection_findings"),
        ),
        sa.ForeignKeyConstraint(["id"], ["entry.id"], name=op.f("fk_inspection_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_inspection")),
    )
    op.create_table(
        "reading",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("quantity", sa.Text(), nullable=False),
        sa.Column("value", sa.Double(), nullable=False),
        sa.Column("unit", sa.Text(), nullable=False),
        sa.Column("method", sa.Text(), nullable=False),
        sa.Column("conditions", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.Column("standard_u", sa.Double(), nullable=False),
        sa.CheckConstraint(
            "(quantity, unit) IN (('voltage', 'V'), ('capacity', 'mAh'), ('resistance', 'mOhm'))",
            name=op.f("ck_reading_unit_of_quantity"),
        ),
        sa.CheckConstraint("value > 0 OR (quantity = 'voltage' AND value = 0)", name=op.f("ck_reading_value_positive")),
        sa.CheckConstraint("standard_u >= 0", name=op.f("ck_reading_uncertainty_not_negative")),
        sa.ForeignKeyConstraint(["id"], ["entry.id"], name=op.f("fk_reading_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_reading")),
    )
    op.create_table(
        "step",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("step", sa.Text(), nullable=False),
        sa.Column("details", postgresql.JSONB(astext_type=sa.Text()), nullable=False),
        sa.CheckConstraint(
            "step IN ('charge', 'decision', 'recovery', 'repair', 'shelved', 'skip')", name=op.f("ck_step_step")
        ),
        sa.ForeignKeyConstraint(["id"], ["entry.id"], name=op.f("fk_step_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_step")),
    )
    op.create_foreign_key("fk_cell_judgement_id", "cell", "judgement", ["judgement_id"], ["id"])

    op.execute(
        """
        CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            RAISE EXCEPTION 'rows of % are only added, never changed or removed', TG_TABLE_NAME;
        END $$
        """
    )
    for table in APPEND_ONLY:
        op.execute(
            f"CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON {table} "
            "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()"
        )
    op.execute(
        "INSERT INTO rule_set (version, voltage_school, grade_school, at, why) "
        "VALUES (1, 'usual', 'health', now(), 'The rules that Zembric comes with.')"
    )
    op.execute("INSERT INTO place (name, kind) VALUES ('Fire-safe box', 'fire-safe-box'), ('Out-box', 'out-box')")
