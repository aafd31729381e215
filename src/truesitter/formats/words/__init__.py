"""Sentences about numbers."""
