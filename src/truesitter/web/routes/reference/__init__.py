"""Routes: reference."""
