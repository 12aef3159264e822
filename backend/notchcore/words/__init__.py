"""What the program says to people: typed facts, one catalogue of templates, one renderer."""
