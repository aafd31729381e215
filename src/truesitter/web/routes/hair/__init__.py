"""Routes: hair."""
