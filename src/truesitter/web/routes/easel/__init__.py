"""Routes: easel."""
