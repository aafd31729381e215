"""True Sitter: from a photograph of a sitter to a plan that can be painted."""

__version__ = "0.1.0"
