"""Numbers of paint layered, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# coat_count.py

MOST_COATS = 24
"""Of either mixture [try]."""

L_CELL, AB_CELL = 0.5, 4.0
"""Colours in one cell of L* and of a* and b* take the same coats."""

CHUNK = 512
"""Places reckoned at a time: bounds the memory."""

# films.py

WHITE_GROUND = 0.8
"""Reflectance of the white that a swatch's films are held over, beside black [try]."""

LEAST_READ = 0.1
"""A swatch nearer to its support than this, in value steps, tells nothing [try]."""

FILM_TOLERANCE_MM = 1e-7
"""A film is found to so many mm: far below what moves a value by a thousandth of a step."""

# glazes.py

RATIOS = ((1, 1), (2, 1), (1, 2), (4, 1), (1, 4), (8, 1), (1, 8))
"""Parts of two colours that are tried in a glaze."""

SIMPLER = 0.3
"""ΔE2000 that a colour fewer in a glaze is worth [try]."""

WORTH_SHOWING = 6.0
"""ΔE2000 beyond the best glaze from which on another is not worth showing [try]."""

SPARSE = 3
"""Every so many dilutions are tried first."""

NEAR = 12.0
"""A glaze that costs more than this comes nowhere near what is wanted."""
