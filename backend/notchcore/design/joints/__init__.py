"""Dividing each overlap so that every bit has one owner."""
