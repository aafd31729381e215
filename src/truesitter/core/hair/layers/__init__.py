"""Layers of hair: nested tones of each mass, with strokes along the growth."""
