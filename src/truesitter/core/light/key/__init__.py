"""Where the light comes from, and what stands in its way."""
