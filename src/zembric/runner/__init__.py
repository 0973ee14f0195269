"""The runner: the one process that owns the instruments' ports and drives what runs in their slots."""
