"""Where sitters are kept."""

from __future__ import annotations

from pathlib import Path

import platformdirs


def data_folder() -> Path:
    """Where a painter's own sitters are kept by default."""
    return Path(platformdirs.user_data_dir("truesitter", appauthor=False))
