"""Long trials of what must not break; short ones of the same are among the tests."""
