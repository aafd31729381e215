"""Brushes: what there is, what goes into a shape, and which few do for a painting."""
