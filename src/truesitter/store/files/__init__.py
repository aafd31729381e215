"""Photographs and a sitter's own file."""
