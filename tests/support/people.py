"""The passwords of the people that every test database has."""

PASSWORD = "seven dry birch logs"
