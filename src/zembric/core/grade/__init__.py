"""What follows from a cell's story: grounds, grades, and what it is good for."""
