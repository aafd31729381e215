"""Tables, their database and its clock."""
