"""Mirrored light: shine, highlights and their ceilings, eyes, metal."""
