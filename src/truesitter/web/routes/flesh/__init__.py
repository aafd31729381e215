"""Routes: flesh."""
