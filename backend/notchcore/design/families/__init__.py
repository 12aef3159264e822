"""Starting arrangements of panels."""
