"""Declared results, their keys, and the memory that keeps them."""
