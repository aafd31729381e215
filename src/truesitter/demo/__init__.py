"""Made-up sitters: people who do not exist, rendered for this project."""
