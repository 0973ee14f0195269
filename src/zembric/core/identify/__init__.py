"""What a cell or its donor is, before anything is measured: numbers, sizes, families, prints, ends."""
