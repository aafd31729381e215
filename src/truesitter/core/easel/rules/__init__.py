"""Rules of painting that a canvas keeps or breaks."""
