"""Exactly one next step for a cell, and what belongs to taking it."""
