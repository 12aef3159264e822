"""Kerf to paths, the order of cuts, times."""
