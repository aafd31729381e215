"""Kinds of pass: what each does to the canvas."""
