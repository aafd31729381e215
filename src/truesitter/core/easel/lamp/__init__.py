"""The photograph's lamp and camera taken out of a painting."""
