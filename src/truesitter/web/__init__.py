"""The application over HTTP: JSON under /api, pictures with ETags, the built front end."""
