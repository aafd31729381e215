"""Which way hair lies: kinds, guides, direction field, growth lines."""
