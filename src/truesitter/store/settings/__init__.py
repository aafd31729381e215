"""Sitters, their settings and history; tubes and palettes."""
