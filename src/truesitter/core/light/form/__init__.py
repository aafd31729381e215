"""Skin in classes of light, its peaks, zones and recesses."""
