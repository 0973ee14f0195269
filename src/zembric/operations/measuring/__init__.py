"""Measurements by a method, and testers' logs."""
