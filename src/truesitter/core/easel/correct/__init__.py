"""What helps: remedies, the next dab, when to stop, habits across paintings."""
