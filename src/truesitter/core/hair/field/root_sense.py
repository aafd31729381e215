"""Which end is the root: turning an undirected field into one that runs root to tip.

Beliefs about growth say at some points which way the strand runs. The sense is spread from
there along the field: neighbours of one kind whose directions agree share it.
"""

from __future__ import annotations

import numpy as np

from truesitter.core.hair.field.direction_field import AxisField
from truesitter.core.hair.field.field_solver import grid_edges, solve_smooth
from truesitter.core.hair.field.guides import NOTHING_DRAWN, Handles, line_mask
from truesitter.core.hair.field.hair_beliefs import Signs, growth_beliefs
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.tuning import LEAK
from truesitter.core.types import Floats, Labels


def _parts(signs: Signs, handles: Handles) -> Labels:
    """Kinds, with the knot apart, and the two sides of each parting unjoined."""
    parts = signs.kinds.copy()
    if signs.knot is not None:
        parts[signs.knot.mask] = max(Kind) + 1
    for number, line in enumerate(handles.partings):
        on = line_mask(line, parts.shape, 2) & (parts == Kind.SCALP)
        parts[on] = max(Kind) + 2 + number % 200
    return parts


def orient(field: AxisField, signs: Signs, handles: Handles = NOTHING_DRAWN) -> Floats:
    """Root→tip unit direction, (h, w, 2) float32, x right and y up; zero outside the hair.

    Parameters
    ----------
    field
        Axes without sense.
    signs
        What tells root from tip, and how surely.
    handles
        The painter’s own strokes.

    Returns
    -------
    Floats
        (h, w, 2) unit vectors, x right, y up.
    """
    angle = field.angle
    axis = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
    directed: Floats = np.zeros(axis.shape, np.float32)
    if not field.mask.any():
        return directed
    along = (axis * growth_beliefs(signs, handles)).sum(axis=-1)[field.mask]
    unit = axis[field.mask]
    _, pairs = grid_edges(_parts(signs, handles))
    agreement = (unit[pairs[0]] * unit[pairs[1]]).sum(axis=1)
    coupling = np.sign(agreement) * agreement**2
    # Beliefs are sources: what reaches a strand is their sum along it, not the nearest of them.
    belief = (along / LEAK)[:, None].astype(np.float64)
    sense = solve_smooth(belief, np.full(len(along), LEAK), pairs, coupling.astype(np.float64))
    directed[field.mask] = unit * np.where(sense[:, 0] >= 0, 1.0, -1.0)[:, None]
    return directed
