"""The process that computes for the one that answers; see `workers`.

Started with a data folder, a socket, and MiB of pictures in flight and of results remembered.
"""

from __future__ import annotations

import importlib
import os
import sys
import threading
from pathlib import Path

import uvicorn

from truesitter.core.reference.decode import set_ceiling
from truesitter.core.sitter.landmarks import warm_up
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app
from truesitter.web.server.memory import keep_small

_LIBRARIES = (
    "scipy.ndimage", "scipy.optimize", "scipy.interpolate", "scipy.spatial", "scipy.sparse.linalg",
    "scipy.special", "skimage.graph", "skimage.measure._find_contours", "skimage.segmentation",
)  # fmt: skip
"""Imported by the core where they are used; together over a second."""


def _end_with_parent() -> None:
    """Whoever started this process holds the other end of its standard input."""
    sys.stdin.buffer.read()
    os._exit(0)


def load_libraries() -> None:
    """Load what plans are computed with now, so that the first photograph need not wait for it."""
    for name in _LIBRARIES:
        importlib.import_module(name)


def main(folder: Path, socket: Path, in_flight: int, remembered: int) -> None:
    """Serve a data folder on a socket until the process that asked for it has ended."""
    os.umask(0o077)
    set_ceiling(in_flight << 20)
    keep_small()
    threading.Thread(target=_end_with_parent, daemon=True).start()
    app = create_app(Repository(folder), most_bytes=remembered << 20, within=True)
    load_libraries()
    warm_up()
    uvicorn.Server(uvicorn.Config(app, uds=str(socket), log_level="warning")).run()


if __name__ == "__main__":
    main(Path(sys.argv[1]), Path(sys.argv[2]), int(sys.argv[3]), int(sys.argv[4]))
