"""Exercises for eye and hand: rounds made from a picture, scored, and spaced."""
