"""Outlines and heights from images and solids."""
