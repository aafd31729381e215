"""Work on top of a whole study: painted again, batches, coats, sections, taking off, habits."""
