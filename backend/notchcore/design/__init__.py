"""Panels in space, their meetings, and the joints that follow."""
