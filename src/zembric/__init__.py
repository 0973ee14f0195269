"""Zembric, the workbench companion of a repair cafe."""

import gc

# Loading makes a hundred thousand objects that all stay: the collector need not walk through them again and again.
gc.set_threshold(50_000, 20, 50)
