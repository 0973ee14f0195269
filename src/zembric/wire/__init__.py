"""Instruments on a wire: how one is asked and set (data, not code), the link to it, and the simulated tester that speaks the same."""
