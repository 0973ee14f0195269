"""Which cells go together: proposals, long searches, and what is needed."""
