"""What reading a spoilt zip file may raise."""

from __future__ import annotations

import zipfile
import zlib

SPOILT = (
    zipfile.BadZipFile, zipfile.LargeZipFile, zlib.error, UnicodeDecodeError, KeyError, EOFError,
    NotImplementedError, RuntimeError,
)  # fmt: skip
"""Besides errors of the disk: bad sums, streams and names, what is missing, locked or packed otherwise."""
