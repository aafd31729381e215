"""Held to the made sitters, whose truth is known, and to the simulated camera: renderings of our own."""
