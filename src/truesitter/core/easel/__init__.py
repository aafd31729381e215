"""A painting held to its plan."""
