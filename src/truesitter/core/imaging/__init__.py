"""Pictures as arrays: pixels, blur, lines, reduction."""
