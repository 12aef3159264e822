"""What a run teaches."""
