"""How people come in, and how that ends."""
