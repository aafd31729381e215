"""Composition: ground, background, focus, texture, what is reserved, the family of shadows."""
