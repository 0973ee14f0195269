"""The house rules changed, and what an evening brought."""
