"""Where a painting lies in its photograph: corners, view, registration."""
