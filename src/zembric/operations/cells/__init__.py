"""Cells as they are listed, found, judged and described."""
