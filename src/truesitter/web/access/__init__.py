"""Sessions and who may come in."""
