"""Open formats: PNG, SVG, PDF and JSON of what the core computed."""
