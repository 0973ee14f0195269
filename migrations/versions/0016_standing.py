"""How each cell stands now, narrow and in one place, so that overviews of a large collection need not join what was ever judged"""

import sqlalchemy as sa
from alembic import op

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

_WRITE = """
CREATE FUNCTION write_standing(wanted integer) RETURNS void LANGUAGE sql AS $$
    INSERT INTO standing AS s (cell_id, number, donor_id, size_code, family, place_id, place_kind, in_pack, in_use, grade, step,
            then_step, not_before, watched_reading_at, resting_voltage_v, capacity_mah, resistance_mohm, resistance_method, carries_a)
        SELECT c.id, c.number, c.donor_id, c.size_code, c.family, c.place_id, p.kind,
            held.in_pack, c.in_use_in IS NOT NULL,
            j.grade,
            CASE WHEN j.next_step = 'fire-safe-box' AND p.kind IS DISTINCT FROM 'fire-safe-box' THEN 'fire-safe-box' ELSE held.step END,
            CASE WHEN held.step = j.next_step THEN j.next_then END, j.next_not_before, j.watched_reading_at, j.resting_voltage_v, j.capacity_mah,
            j.resistance_mohm, j.resistance_method, j.carries_a
        FROM cell c JOIN judgement j ON j.id = c.judgement_id LEFT JOIN place p ON p.id = c.place_id
        CROSS JOIN LATERAL (SELECT EXISTS (SELECT FROM pack_cell WHERE pack_cell.cell_id = c.id AND released_at IS NULL) AS in_pack) AS packed
        CROSS JOIN LATERAL (SELECT packed.in_pack, CASE WHEN packed.in_pack THEN 'in-pack' WHEN c.in_use_in IS NOT NULL THEN 'in-use'
            WHEN j.grade = 'out' AND p.kind IN ('fire-safe-box', 'out-box') THEN 'hand-over' ELSE j.next_step END AS step) AS held
        WHERE c.id = wanted AND c.handed_over_at IS NULL
    ON CONFLICT (cell_id) DO UPDATE SET (number, donor_id, size_code, family, place_id, place_kind, in_pack, in_use, grade, step,
            then_step, not_before, watched_reading_at, resting_voltage_v, capacity_mah, resistance_mohm, resistance_method, carries_a)
        = (excluded.number, excluded.donor_id, excluded.size_code, excluded.family, excluded.place_id, excluded.place_kind, excluded.in_pack,
            excluded.in_use, excluded.grade, excluded.step, excluded.then_step, excluded.not_before, excluded.watched_reading_at,
            excluded.resting_voltage_v, excluded.capacity_mah, excluded.resistance_mohm, excluded.resistance_method, excluded.carries_a)
$$
"""
_OF_CELL = """
CREATE FUNCTION standing_of_cell() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF NEW.handed_over_at IS NOT NULL THEN
        DELETE FROM standing WHERE cell_id = NEW.id;
    ELSIF NEW.judgement_id IS NOT NULL THEN
        PERFORM write_standing(NEW.id);
    END IF;
    RETURN NULL;
END $$
"""
_OF_PACK = """
CREATE FUNCTION standing_of_pack_cell() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    PERFORM write_standing(coalesce(NEW.cell_id, OLD.cell_id));
    RETURN NULL;
END $$
"""


def upgrade() -> None:
    op.create_table(
        "standing",
        sa.Column("cell_id", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("number", sa.Text(), nullable=False),
        sa.Column("donor_id", sa.Integer(), nullable=False),
        sa.Column("size_code", sa.Text(), nullable=True),
        sa.Column("family", sa.Text(), nullable=True),
        sa.Column("place_id", sa.Integer(), nullable=True),
        sa.Column("place_kind", sa.Text(), nullable=True),
        sa.Column("in_pack", sa.Boolean(), nullable=False),
        sa.Column("in_use", sa.Boolean(), nullable=False),
        sa.Column("grade", sa.Text(), nullable=False),
        sa.Column("step", sa.Text(), nullable=False),
        sa.Column("then_step", sa.Text(), nullable=True),
        sa.Column("not_before", sa.DateTime(timezone=True), nullable=True),
        sa.Column("watched_reading_at", sa.DateTime(timezone=True), nullable=True),
        sa.Column("resting_voltage_v", sa.Double(), nullable=True),
        sa.Column("capacity_mah", sa.Double(), nullable=True),
        sa.Column("resistance_mohm", sa.Double(), nullable=True),
        sa.Column("resistance_method", sa.Text(), nullable=True),
        sa.Column("carries_a", sa.Double(), nullable=True),
        sa.ForeignKeyConstraint(["cell_id"], ["cell.id"], name=op.f("fk_standing_cell_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("cell_id", name=op.f("pk_standing")),
    )
    op.create_index(op.f("ix_standing_donor_id"), "standing", ["donor_id"])
    op.create_index(op.f("ix_standing_place_id"), "standing", ["place_id"])
    op.create_index(
        "ix_standing_watched",
        "standing",
        ["watched_reading_at"],
        postgresql_where=sa.text("watched_reading_at IS NOT NULL"),
    )
    op.create_index("ix_standing_step", "standing", ["step", "not_before", "cell_id"])
    op.create_index(
        "ix_standing_then",
        "standing",
        ["then_step", "not_before", "cell_id"],
        postgresql_where=sa.text("then_step IS NOT NULL"),
    )
    op.create_index(op.f("ix_cell_size_code"), "cell", ["size_code"])
    op.create_index(op.f("ix_standing_place_kind"), "standing", ["place_kind"])
    op.create_index(op.f("ix_standing_size_code"), "standing", ["size_code"])
    for function in (_WRITE, _OF_CELL, _OF_PACK):
        op.execute(function)
    op.execute("SELECT write_standing(id) FROM cell")
    op.execute(
        "CREATE TRIGGER standing AFTER INSERT OR UPDATE ON cell FOR EACH ROW EXECUTE FUNCTION standing_of_cell()"
    )
    op.execute(
        "CREATE TRIGGER standing AFTER INSERT OR UPDATE OR DELETE ON pack_cell FOR EACH ROW EXECUTE FUNCTION standing_of_pack_cell()"
    )
