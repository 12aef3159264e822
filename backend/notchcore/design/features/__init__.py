"""What is cut into or burned on single panels: holes, windows, notches, text, scales."""
