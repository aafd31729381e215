"""Masses of hair: locks, their shapes and shine, the hairline."""
