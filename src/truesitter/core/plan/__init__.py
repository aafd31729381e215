"""The plan: which passes, where, how long, in which sittings, from which kit."""
