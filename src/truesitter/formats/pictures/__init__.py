"""Pictures as PNG, JPEG and OpenRaster."""
