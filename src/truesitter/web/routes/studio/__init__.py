"""Routes: studio."""
