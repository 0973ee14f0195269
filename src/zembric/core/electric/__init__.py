"""Charging, joining, wires and strips: typed functions with units."""
