"""The web: requests parsed, one operation called, its answer shown. No rules and no queries live here."""
