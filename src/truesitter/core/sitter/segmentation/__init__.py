"""Skin, hair, garment and ground told apart, and corrected by strokes."""
