"""Packing parts on sheets."""
