"""Answers that several routes share."""
