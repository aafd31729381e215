"""Numbers of paint optics, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# kubelka_munk.py

SAUNDERSON_K1 = 0.03
"""Reflected at the outer surface, specular excluded from what is seen (from memory)."""

SAUNDERSON_K2 = 0.6
"""Reflected back into the paint at the inner surface (from memory)."""
