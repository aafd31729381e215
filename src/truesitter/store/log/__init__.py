"""Rows of log and drills."""
