"""The record of the work: what happened, and what follows from it."""
