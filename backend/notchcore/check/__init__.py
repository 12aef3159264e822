"""Dry fit: find out before the fire."""
