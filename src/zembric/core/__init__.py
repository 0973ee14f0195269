"""The rules and the computation: plain Python, no Flask, no SQLAlchemy, no files, no clock, no hidden randomness."""
