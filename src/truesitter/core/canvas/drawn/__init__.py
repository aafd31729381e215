"""What is drawn with single strokes: lines of face, creases, light and hair."""
