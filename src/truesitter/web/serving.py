"""Serving the application on this machine."""

from __future__ import annotations

import threading
from pathlib import Path

import platformdirs
import uvicorn

from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app


def data_folder() -> Path:
    """Where a painter's own sitters are kept by default."""
    return Path(platformdirs.user_data_dir("truesitter", appauthor=False))


def run(shelf: Shelf, port: int) -> None:
    """Serve a shelf on 127.0.0.1 until stopped.

    Raises
    ------
    ValueError
        For a port outside 1–65535.
    """
    if not 1 <= port <= 65535:
        raise ValueError(f"a port is a number from 1 to 65535, not {port}")
    shelf.purge()
    # The detector takes seconds to load: let it do so while the painter looks at the shelf.
    threading.Thread(target=_warm_up, daemon=True).start()
    print(f"True Sitter is at http://127.0.0.1:{port}", flush=True)
    uvicorn.run(create_app(shelf), host="127.0.0.1", port=port, log_level="warning")


def _warm_up() -> None:
    import numpy as np

    from truesitter.core.sitter.landmarks import detect

    detect(np.zeros((64, 64, 3), np.uint8))
