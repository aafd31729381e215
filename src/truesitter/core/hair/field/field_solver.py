"""Least squares on the pixels of a mask: data where there are any, and neighbours that agree."""

from __future__ import annotations

import numpy as np

from truesitter.core.types import Doubles, Ints, Labels


def grid_edges(parts: Labels) -> tuple[Ints, Ints]:
    """Number the pixels of some parts and list their neighbour pairs.

    Parameters
    ----------
    parts
        (h, w) number of the part each pixel is of, 0 outside; a mask is one part.

    Returns
    -------
    index, pairs
        (h, w) int32 running numbers, −1 outside; (2, m) numbers of 4-neighbours of the same part.
    """
    mask = parts != 0
    index = np.full(parts.shape, -1, np.int32)
    index[mask] = np.arange(int(mask.sum()))
    across = mask[:, :-1] & (parts[:, :-1] == parts[:, 1:])
    down = mask[:-1] & (parts[:-1] == parts[1:])
    first = np.concatenate([index[:, :-1][across], index[:-1][down]])
    second = np.concatenate([index[:, 1:][across], index[1:][down]])
    return index, np.stack([first, second])


def solve_smooth(data: Doubles, weight: Doubles, pairs: Ints, coupling: Doubles) -> Doubles:
    """Least squares of data and of coupled neighbours.

    Minimises Σ weight (x − data)² + Σ |coupling| (x_i − sign(coupling) x_j)².

    Parameters
    ----------
    data
        (n, k) values.
    weight
        (n,) non-negative weights; at least one positive in each connected part.
    pairs
        (2, m) neighbour numbers.
    coupling
        (m,) coupling strengths; a negative one asks for opposite signs.

    Returns
    -------
    (n, k) solution.
    """
    from scipy import sparse
    from scipy.sparse.linalg import splu

    n = len(data)
    strength = np.abs(coupling)
    diagonal = weight.astype(np.float64).copy()
    np.add.at(diagonal, pairs[0], strength)
    np.add.at(diagonal, pairs[1], strength)
    rows = np.concatenate([pairs[0], pairs[1], np.arange(n)])
    cols = np.concatenate([pairs[1], pairs[0], np.arange(n)])
    entries = np.concatenate([-coupling, -coupling, diagonal])
    matrix = sparse.csc_matrix((entries, (rows, cols)), shape=(n, n))
    solver = splu(matrix, permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True})
    return np.asarray(solver.solve(np.ascontiguousarray(data * weight[:, None])))
