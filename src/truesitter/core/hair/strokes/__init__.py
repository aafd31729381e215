"""Strokes of hair by type, strays, and how a painter approaches it."""
