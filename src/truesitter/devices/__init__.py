"""Outside devices, replaced by small simulated ones."""
