"""What the sheet is, what the beam removes, how it will feel."""
