"""What is kept: sitters, their settings and history in SQLite, photographs as files beside it."""
