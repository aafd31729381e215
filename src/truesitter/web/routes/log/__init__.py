"""Routes: log."""
