"""Washes: what they do to what lies there, and in what ways they are laid."""
