"""How passes are laid: with which brush, in which goes, with which borders."""
