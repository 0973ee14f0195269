"""What is entered with a cell in hand, and what stands beside it."""
