"""Labels, lists in and out, stories taken in."""
