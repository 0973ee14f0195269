"""What is read at the bench: typed amounts and their checks, ways to measure, uncertainty, and what figures come to."""
