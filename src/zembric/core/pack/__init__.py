"""What holds for packs and the cells in them."""
