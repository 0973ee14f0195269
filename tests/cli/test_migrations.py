"""What lay in a database before an upgrade lies in it after, and reads the same."""

from __future__ import annotations

from alembic import command
from sqlalchemy import Engine, text

from tests.conftest import database_url
from zembric.cli.migrations import alembic_config, migrate
from zembric.core.said import from_json
from zembric.operations.database import make_engine
from zembric.wording import say

BEFORE_CODES = "0010"
OLD = """
INSERT INTO person (id, name, role, created_at) OVERRIDING SYSTEM VALUE VALUES (1, 'Ines', 'coordinator', now());
INSERT INTO donor (id, number, kind, description, opened_at, opened_by_id) OVERRIDING SYSTEM VALUE VALUES (1, 'D104', 'laptop', '', now(), 1);
INSERT INTO cell (id, number, donor_id) OVERRIDING SYSTEM VALUE VALUES (1, '1007', 1);
INSERT INTO judgement (id, cell_id, at, rule_set_version, grade, sure, reasons, next_step, next_text, next_needs) OVERRIDING SYSTEM VALUE VALUES (
    1, 1, now(), 1, 'not-yet', NULL,
    '[{"code": "missing", "text": "Still missing: a resistance.", "value": null, "margin": null, "limit": null},
      {"code": "watch", "text": "On watch.", "value": 3.1, "margin": 1.1, "limit": null}]',
    'measure-resistance', 'Measure its resistance.', 'a 1 kHz meter');
"""


def test_what_was_said_in_words_is_kept_as_the_words_it_was(server_url: str, template: Engine) -> None:
    with template.connect() as connection:
        connection.execute(text("CREATE DATABASE before_codes"))
    engine = make_engine(database_url(server_url, "before_codes"))
    try:
        with engine.connect() as connection:
            command.upgrade(alembic_config(connection), BEFORE_CODES)
            connection.exec_driver_sql(OLD)
            connection.commit()
        migrate(engine)
        with engine.begin() as connection:
            row = connection.execute(text("SELECT next_said, next_needs, reasons FROM judgement WHERE id = 1")).one()
    finally:
        engine.dispose()
        with template.connect() as connection:
            connection.execute(text("DROP DATABASE before_codes WITH (FORCE)"))
    told = [
        say(from_json(stored)) for stored in (row.next_said, row.next_needs, *(each["said"] for each in row.reasons))
    ]
    assert told == ["Measure its resistance.", "a 1 kHz meter", "Still missing: a resistance.", "On watch."]
    assert [(each["code"], each["value"]) for each in row.reasons] == [("missing", None), ("watch", 3.1)]
