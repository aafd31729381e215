"""Strokes found on paper or screen, checked against the growth lines."""
