"""What every route shares: dependencies, keys of answers, problems, limits."""
