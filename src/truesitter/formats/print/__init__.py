"""Pages, stencils and vector drawings at true size."""
