"""Where two sheets meet, and how."""
