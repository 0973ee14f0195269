"""What a cell was found with stands with it, so that no entry reads all voltages of its donor; how a cell stands is written by a plan that is kept"""

import sqlalchemy as sa
from alembic import op

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None

_FOUND = """
UPDATE cell SET found_v = found.value FROM (
    SELECT DISTINCT ON (entry.cell_id) entry.cell_id, reading.value
    FROM entry JOIN reading ON reading.id = entry.id
    WHERE reading.quantity = 'voltage' AND reading.conditions ->> 'state' = 'resting'
        AND NOT EXISTS (SELECT FROM entry AS later WHERE later.supersedes_id = entry.id)
        AND NOT EXISTS (
            SELECT FROM entry AS used LEFT JOIN step ON step.id = used.id LEFT JOIN reading AS run ON run.id = used.id
            WHERE used.cell_id = entry.cell_id AND (used.at, used.id) < (entry.at, entry.id)
                AND (step.step IN ('charge', 'recovery') OR run.quantity = 'capacity')
                AND NOT EXISTS (SELECT FROM entry AS later WHERE later.supersedes_id = used.id))
    ORDER BY entry.cell_id, entry.at DESC, entry.id DESC
) AS found WHERE cell.id = found.cell_id
"""
# In PL/pgSQL the plan is made once a connection, in plain SQL at each call.
_WRITE = """
CREATE OR REPLACE FUNCTION write_standing(wanted integer) RETURNS void LANGUAGE plpgsql AS $$ BEGIN
    INSERT INTO standing AS s (cell_id, number, donor_id, size_code, family, place_id, place_kind, in_pack, in_use, grade, step, then_step,
            not_before, overdue_at, watched_reading_at, resting_voltage_v, capacity_mah, resistance_mohm, resistance_method, carries_a)
        SELECT c.id, c.number, c.donor_id, c.size_code, c.family, c.place_id, p.kind,
            held.in_pack, c.in_use_in IS NOT NULL,
            j.grade,
            CASE WHEN j.next_step = 'fire-safe-box' AND p.kind IS DISTINCT FROM 'fire-safe-box' THEN 'fire-safe-box' ELSE held.step END,
            CASE WHEN held.step = j.next_step THEN j.next_then END, j.next_not_before, j.next_overdue_at, j.watched_reading_at,
            j.resting_voltage_v, j.capacity_mah, j.resistance_mohm, j.resistance_method, j.carries_a
        FROM cell c JOIN judgement j ON j.id = c.judgement_id LEFT JOIN place p ON p.id = c.place_id
        CROSS JOIN LATERAL (SELECT EXISTS (SELECT FROM pack_cell WHERE pack_cell.cell_id = c.id AND released_at IS NULL) AS in_pack) AS packed
        CROSS JOIN LATERAL (SELECT packed.in_pack, CASE WHEN packed.in_pack THEN 'in-pack' WHEN c.in_use_in IS NOT NULL THEN 'in-use'
            WHEN j.grade = 'out' AND p.kind IN ('fire-safe-box', 'out-box') THEN 'hand-over' ELSE j.next_step END AS step) AS held
        WHERE c.id = wanted AND c.handed_over_at IS NULL
    ON CONFLICT (cell_id) DO UPDATE SET (number, donor_id, size_code, family, place_id, place_kind, in_pack, in_use, grade, step, then_step,
            not_before, overdue_at, watched_reading_at, resting_voltage_v, capacity_mah, resistance_mohm, resistance_method, carries_a)
        = (excluded.number, excluded.donor_id, excluded.size_code, excluded.family, excluded.place_id, excluded.place_kind, excluded.in_pack,
            excluded.in_use, excluded.grade, excluded.step, excluded.then_step, excluded.not_before, excluded.overdue_at,
            excluded.watched_reading_at, excluded.resting_voltage_v, excluded.capacity_mah, excluded.resistance_mohm,
            excluded.resistance_method, excluded.carries_a);
END $$
"""


def upgrade() -> None:
    op.add_column("cell", sa.Column("found_v", sa.Double(), nullable=True))
    op.add_column("standing", sa.Column("overdue_at", sa.DateTime(timezone=True), nullable=True))
    op.execute("ALTER TABLE cell DISABLE TRIGGER standing")
    op.execute(_FOUND)
    op.execute("ALTER TABLE cell ENABLE TRIGGER standing")
    op.execute(_WRITE)
    op.execute(
        "UPDATE standing SET overdue_at = judgement.next_overdue_at FROM cell, judgement "
        "WHERE cell.id = standing.cell_id AND judgement.id = cell.judgement_id"
    )
    op.create_index(
        "ix_standing_overdue", "standing", ["overdue_at"], postgresql_where=sa.text("overdue_at IS NOT NULL")
    )
    op.create_index("ix_judgement_out", "judgement", ["at"], postgresql_where=sa.text("grade = 'out'"))
