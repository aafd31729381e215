"""Numbers of light, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# light_report.py

LEAST_SHARE = 0.003
"""Classes that cover less of the skin are not told."""

SMALLEST_CAST = 0.02
"""Cast shadows are told from this square of the face's height."""

SHORTEST_TERMINATOR = 0.08
"""Of the face's height: shorter ones are left out."""

SLIVER = 0.02
"""Half the width of shadow that is too narrow for a form, in heights of the face."""

PLAIN = 2.0
"""Difference in a*, b* at one lightness from which a side is warmer, cooler, redder or greener."""
