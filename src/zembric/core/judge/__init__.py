"""The judge: a story in, grade with grounds and next step out."""
