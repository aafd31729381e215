"""The canvas while it is painted: layers, patches, borders, painted pixels."""
