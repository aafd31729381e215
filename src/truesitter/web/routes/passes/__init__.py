"""Routes: passes."""
