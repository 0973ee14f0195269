"""Testers and chargers on the table: what lies in their slots, what runs, what went wrong, and what comes of it."""
