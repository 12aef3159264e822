"""Values to files and back."""
