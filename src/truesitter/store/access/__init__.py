"""Passphrase and studio."""
