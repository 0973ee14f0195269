"""Donors and cells known for what they are, places with numbers, labels, photos, lists"""

import json
from pathlib import Path

import sqlalchemy as sa
from alembic import op
from stdnum import damm

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None

SEEDS = Path(__file__).parents[1] / "seeds" / "0002_catalogue.json"
APPEND_ONLY = ("group_reading", "label_print", "list_import", "stock_take")
# What the five kinds of the first tables are called now.
NEW_KINDS = {"vape": "vape-single-use", "other": "unknown"}
CHECKS = (
    ("cell", "ck_cell_advertised_capacity_positive", "advertised_capacity_mah > 0"),
    ("cell", "ck_cell_build", "build IN ('bare-can', 'flat-can', 'pouch', 'wrapped-can')"),
    ("cell", "ck_cell_in_use_is_in_no_place", "in_use_in IS NULL OR place_id IS NULL"),
    ("cell", "ck_cell_mass_positive", "mass_g > 0"),
    ("cell", "ck_cell_outline_positive", "width_mm > 0 AND length_mm > 0 AND thickness_mm > 0"),
    ("cell", "ck_cell_outline_whole", "(width_mm IS NULL) = (length_mm IS NULL)"),
    ("cell", "ck_cell_plus_end", "plus_end IN ('button', 'can', 'lead', 'marked-tab')"),
    ("cell", "ck_cell_protection", "protection IN ('donor-board', 'inside', 'none')"),
    ("cell", "ck_cell_terminals", "terminals IN ('clean', 'soldered', 'stub', 'wires')"),
    ("donor", "ck_donor_charged_in", "charged_in IN ('device', 'holder', 'out')"),
    ("donor", "ck_donor_charger_kind", "charger_kind IN ('linear', 'none', 'pack-board', 'switching', 'unknown')"),
    ("donor", "ck_donor_charger_positive", "charger_k_v > 0 AND charger_r1_ohm > 0 AND charger_r2_ohm > 0"),
    ("donor", "ck_donor_claims_positive", "claimed_v > 0 AND claimed_wh > 0 AND claimed_mah > 0"),
    ("donor", "ck_donor_converter", "converter IN ('both', 'none', 'step-down', 'step-up', 'unknown')"),
    ("donor", "ck_donor_protection", "protection IN ('no', 'unknown', 'yes')"),
    ("donor", "ck_donor_run_times", "ran_min > 0 AND runs_now_min >= 0"),
    (
        "donor",
        "ck_donor_symptom",
        "symptom IN ('cuts-out', 'dead', 'does-not-charge', 'none', 'runs-short', 'unused', 'wet-or-dropped')",
    ),
    ("donor", "ck_donor_temperature_sensor", "temperature_sensor IN ('no', 'unknown', 'yes')"),
    ("place", "ck_place_kind", "kind IN ('fire-safe-box', 'holding-box', 'out-box', 'shelf-box', 'tray')"),
    ("place", "ck_place_capacity_positive", "capacity > 0"),
    (
        "step",
        "ck_step_step",
        "step IN ('charge', 'decision', 'recovery', 'recovery-check', 'recovery-started', 'repair', 'second-look', 'shelved', 'skip')",
    ),
)


def upgrade() -> None:
    op.execute(sa.schema.CreateSequence(sa.Sequence("place_number_seq", start=10)))
    op.create_table(
        "cell_format",
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("width_mm", sa.Double(), nullable=False),
        sa.Column("length_mm", sa.Double(), nullable=False),
        sa.Column("thickness_mm", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint("thickness_mm > 0", name=op.f("ck_cell_format_thickness_positive")),
        sa.CheckConstraint("width_mm > 0 AND length_mm > 0", name=op.f("ck_cell_format_outline_positive")),
        sa.PrimaryKeyConstraint("code", name=op.f("pk_cell_format")),
    )
    op.create_table(
        "cell_model",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("size_code", sa.Text(), nullable=False),
        sa.Column("family", sa.Text(), nullable=False),
        sa.Column("full_v", sa.Double(), nullable=True),
        sa.Column("rated_capacity_mah", sa.Double(), nullable=False),
        sa.Column("cut_off_v", sa.Double(), nullable=True),
        sa.Column("most_charge_ma", sa.Double(), nullable=True),
        sa.Column("most_discharge_ma", sa.Double(), nullable=True),
        sa.Column("source", sa.Text(), nullable=False),
        sa.Column("sheet_date", sa.Date(), nullable=True),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "family IN ('high-voltage-cobalt', 'iron-phosphate', 'layered-oxide', 'primary', 'titanate')",
            name=op.f("ck_cell_model_family"),
        ),
        sa.CheckConstraint("full_v BETWEEN 2 AND 5", name=op.f("ck_cell_model_full_v")),
        sa.CheckConstraint(
            "most_charge_ma > 0 AND most_discharge_ma > 0", name=op.f("ck_cell_model_currents_positive")
        ),
        sa.CheckConstraint("rated_capacity_mah > 0", name=op.f("ck_cell_model_rated_capacity_positive")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_cell_model")),
        sa.UniqueConstraint("name", name=op.f("uq_cell_model_name")),
    )
    op.create_table(
        "chemistry",
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("family", sa.Text(), nullable=False),
        sa.Column("full_v", sa.Double(), nullable=True),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint(
            "family IN ('high-voltage-cobalt', 'iron-phosphate', 'layered-oxide', 'primary', 'titanate')",
            name=op.f("ck_chemistry_family"),
        ),
        sa.CheckConstraint("full_v BETWEEN 2 AND 5", name=op.f("ck_chemistry_full_v")),
        sa.PrimaryKeyConstraint("code", name=op.f("pk_chemistry")),
    )
    op.create_table(
        "donor_kind",
        sa.Column("code", sa.Text(), nullable=False),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("sizes", sa.Text(), nullable=False),
        sa.Column("usual_size", sa.Text(), nullable=True),
        sa.Column("usual_family", sa.Text(), nullable=True),
        sa.Column("cells_least", sa.Integer(), nullable=False),
        sa.Column("cells_most", sa.Integer(), nullable=False),
        sa.Column("drain", sa.Text(), nullable=False),
        sa.Column("protection", sa.Text(), nullable=False),
        sa.Column("traps", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("cautions", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("judged_as", sa.Text(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint("drain IN ('high', 'low', 'mixed')", name=op.f("ck_donor_kind_drain")),
        sa.CheckConstraint(
            "judged_as IN ('laptop', 'other', 'phone', 'power-tool', 'vape')", name=op.f("ck_donor_kind_judged_as")
        ),
        sa.CheckConstraint(
            "protection IN ('bare', 'mixed', 'own board', 'pack board')", name=op.f("ck_donor_kind_protection")
        ),
        sa.CheckConstraint(
            "usual_family IN ('high-voltage-cobalt', 'iron-phosphate', 'layered-oxide', 'primary', 'titanate')",
            name=op.f("ck_donor_kind_usual_family"),
        ),
        sa.CheckConstraint(
            "cells_least BETWEEN 1 AND cells_most AND cells_most <= 40", name=op.f("ck_donor_kind_cells")
        ),
        sa.PrimaryKeyConstraint("code", name=op.f("pk_donor_kind")),
        sa.UniqueConstraint("name", name=op.f("uq_donor_kind_name")),
    )
    op.create_table(
        "tray_size",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("name", sa.Text(), nullable=False),
        sa.Column("rows", sa.Integer(), nullable=False),
        sa.Column("columns", sa.Integer(), nullable=False),
        sa.Column("is_active", sa.Boolean(), server_default="true", nullable=False),
        sa.Column("version", sa.Integer(), server_default="1", nullable=False),
        sa.CheckConstraint("rows BETWEEN 1 AND 20 AND columns BETWEEN 1 AND 20", name=op.f("ck_tray_size_size")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_tray_size")),
        sa.UniqueConstraint("name", name=op.f("uq_tray_size_name")),
    )
    op.create_table(
        "label_print",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("layout", sa.Text(), nullable=False),
        sa.Column("first", sa.Integer(), nullable=False),
        sa.Column("numbers", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("again", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("why", sa.Text(), nullable=True),
        sa.CheckConstraint("first >= 1", name=op.f("ck_label_print_first_place")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_label_print_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_label_print")),
    )
    op.create_table(
        "list_import",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("file_name", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("cells", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_list_import_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_list_import")),
        sa.UniqueConstraint("sha256", name=op.f("uq_list_import_sha256")),
    )
    op.create_table(
        "group_reading",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("donor_id", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("parallel", sa.Integer(), nullable=False),
        sa.Column("voltages_v", sa.ARRAY(sa.Double()), nullable=False),
        sa.ForeignKeyConstraint(["donor_id"], ["donor.id"], name=op.f("fk_group_reading_donor_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_group_reading_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_group_reading")),
    )
    op.create_index(op.f("ix_group_reading_donor_id"), "group_reading", ["donor_id"], unique=False)
    op.create_table(
        "part",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("donor_id", sa.Integer(), nullable=False),
        sa.Column("kind", sa.Text(), nullable=False),
        sa.Column("description", sa.Text(), nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("kept_by_id", sa.Integer(), nullable=False),
        sa.Column("gone_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("gone_why", sa.Text(), nullable=True),
        sa.CheckConstraint(
            "kind IN ('charger-board', 'connector', 'converter', 'holder', 'other', 'protection-board', 'sensor', 'switch')",
            name=op.f("ck_part_kind"),
        ),
        sa.CheckConstraint("char_length(description) <= 200", name=op.f("ck_part_description_length")),
        sa.ForeignKeyConstraint(["donor_id"], ["donor.id"], name=op.f("fk_part_donor_id")),
        sa.ForeignKeyConstraint(["kept_by_id"], ["person.id"], name=op.f("fk_part_kept_by_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_part")),
    )
    op.create_index(op.f("ix_part_donor_id"), "part", ["donor_id"], unique=False)
    op.create_table(
        "stock_take",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.Column("place_id", sa.Integer(), nullable=False),
        sa.Column("seen", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("missing", sa.ARRAY(sa.Text()), nullable=False),
        sa.Column("misplaced", sa.ARRAY(sa.Text()), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_stock_take_person_id")),
        sa.ForeignKeyConstraint(["place_id"], ["place.id"], name=op.f("fk_stock_take_place_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_stock_take")),
    )
    op.create_index(op.f("ix_stock_take_place_id"), "stock_take", ["place_id"], unique=False)
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer(), sa.Identity(always=True), nullable=False),
        sa.Column("donor_id", sa.Integer(), nullable=True),
        sa.Column("cell_id", sa.Integer(), nullable=True),
        sa.Column("sha256", sa.Text(), nullable=False),
        sa.Column("width_px", sa.Integer(), nullable=False),
        sa.Column("height_px", sa.Integer(), nullable=False),
        sa.Column("bytes", sa.Integer(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("person_id", sa.Integer(), nullable=False),
        sa.CheckConstraint("(donor_id IS NULL) <> (cell_id IS NULL)", name=op.f("ck_photo_of_one_thing")),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_photo_cell_id")),
        sa.ForeignKeyConstraint(["donor_id"], ["donor.id"], name=op.f("fk_photo_donor_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_photo_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_photo")),
    )
    op.create_index(op.f("ix_photo_cell_id"), "photo", ["cell_id"], unique=False)
    op.create_index(op.f("ix_photo_donor_id"), "photo", ["donor_id"], unique=False)
    _fill_catalogue()
    op.add_column("cell", sa.Column("advertised_capacity_mah", sa.Double(), nullable=True))
    op.add_column("cell", sa.Column("chemistry_code", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("model_id", sa.Integer(), nullable=True))
    op.add_column("cell", sa.Column("width_mm", sa.Double(), nullable=True))
    op.add_column("cell", sa.Column("length_mm", sa.Double(), nullable=True))
    op.add_column("cell", sa.Column("thickness_mm", sa.Double(), nullable=True))
    op.add_column("cell", sa.Column("mass_g", sa.Double(), nullable=True))
    op.add_column("cell", sa.Column("build", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("plus_end", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("protection", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("terminals", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("in_use_in", sa.Text(), nullable=True))
    op.add_column("cell", sa.Column("group_number", sa.Integer(), nullable=True))
    op.add_column("cell", sa.Column("own_label", sa.Text(), nullable=True))
    op.create_foreign_key(op.f("fk_cell_model_id"), "cell", "cell_model", ["model_id"], ["id"])
    op.create_foreign_key(op.f("fk_cell_chemistry_code"), "cell", "chemistry", ["chemistry_code"], ["code"])
    op.add_column("donor", sa.Column("symptom", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("ran_min", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("runs_now_min", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("claimed_v", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("claimed_wh", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("claimed_mah", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("charger_kind", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("charger_k_v", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("charger_r1_ohm", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("charger_r2_ohm", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("protection", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("protection_cut_off_v", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("protection_release_v", sa.Double(), nullable=True))
    op.add_column("donor", sa.Column("temperature_sensor", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("converter", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("connector", sa.Text(), nullable=True))
    op.add_column("donor", sa.Column("charged_in", sa.Text(), server_default="out", nullable=False))
    op.add_column("donor", sa.Column("taped_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("donor", sa.Column("taped_by_id", sa.Integer(), nullable=True))
    op.add_column("donor", sa.Column("version", sa.Integer(), server_default="1", nullable=False))
    op.create_foreign_key(op.f("fk_donor_taped_by_id"), "donor", "person", ["taped_by_id"], ["id"])
    op.add_column("place", sa.Column("number", sa.Text(), nullable=True))
    op.add_column("place", sa.Column("capacity", sa.Integer(), nullable=True))
    op.add_column("place", sa.Column("cursor_slot", sa.Integer(), nullable=True))
    op.add_column("place", sa.Column("cursor_at", sa.DateTime(timezone=True), nullable=True))
    op.add_column("place", sa.Column("cursor_by_id", sa.Integer(), nullable=True))
    op.add_column("place", sa.Column("version", sa.Integer(), server_default="1", nullable=False))
    _number_places()
    op.create_unique_constraint(op.f("uq_place_number"), "place", ["number"])
    op.create_foreign_key(op.f("fk_place_cursor_by_id"), "place", "person", ["cursor_by_id"], ["id"])
    op.drop_constraint("ck_donor_kind", "donor")
    for old, new in NEW_KINDS.items():
        op.execute(sa.text("UPDATE donor SET kind = :new WHERE kind = :old").bindparams(old=old, new=new))
    op.create_foreign_key(op.f("fk_donor_kind"), "donor", "donor_kind", ["kind"], ["code"])
    op.drop_constraint("ck_step_step", "step")
    op.drop_constraint("ck_place_kind", "place")
    for table, name, condition in CHECKS:
        op.create_check_constraint(op.f(name), table, condition)
    for table in APPEND_ONLY:
        op.execute(
            f"CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON {table} "
            "FOR EACH STATEMENT EXECUTE FUNCTION refuse_change()"
        )


def _fill_catalogue() -> None:
    """What Zembric comes with; coordinators change it afterwards."""
    connection = op.get_bind()
    for name, rows in json.loads(SEEDS.read_text(encoding="utf-8")).items():
        table = sa.Table(name, sa.MetaData(), autoload_with=connection)
        connection.execute(table.insert(), rows)


def _number_places() -> None:
    connection = op.get_bind()
    for place_id, kind in connection.execute(sa.text("SELECT id, kind FROM place ORDER BY id")).all():
        digits = str(connection.scalar(sa.text("SELECT nextval('place_number_seq')")))
        number = ("T" if kind == "tray" else "X") + digits + damm.calc_check_digit(digits)
        connection.execute(
            sa.text("UPDATE place SET number = :number WHERE id = :id"), {"number": number, "id": place_id}
        )
    op.alter_column("place", "number", nullable=False)
