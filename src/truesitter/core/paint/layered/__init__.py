"""Paint in layers: films, glazes, coats, wet paint."""
