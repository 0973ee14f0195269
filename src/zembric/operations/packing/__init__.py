"""Packs: wished for, planned, picked, built, given out, taken apart."""
