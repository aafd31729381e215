"""What is computed at once, where, and in which order."""
