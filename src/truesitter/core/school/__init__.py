"""Schools of painting: documents, the shipped ones, what their switches move."""
