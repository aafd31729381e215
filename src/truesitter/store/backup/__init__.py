"""Backups, daily copies, checks, and what is set aside."""
