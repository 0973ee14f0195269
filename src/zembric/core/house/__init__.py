"""The house rules: every limit with its kind and source, and the schools and switches a cafe chooses."""
