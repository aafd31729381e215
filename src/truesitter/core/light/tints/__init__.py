"""Colour of skin under the light, and what it borrows from beside."""
