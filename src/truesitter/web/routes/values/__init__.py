"""Routes: values."""
