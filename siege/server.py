"""The application as a process of its own, watched from outside."""

from __future__ import annotations

import os
import re
import socket
import ssl
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import Any, Self

import httpx
import psutil

_NO_TLS = httpx.create_ssl_context()
"""Made once: each client would make its own, which takes longer than what is measured."""


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Server:
    """`truesitter serve` on a folder; its memory is looked at ten times a second."""

    def __init__(self, folder: Path, *arguments: str, trusted: ssl.SSLContext | None = None) -> None:
        self.folder, self.port = folder, free_port()
        self.address = f"{'https' if trusted else 'http'}://127.0.0.1:{self.port}"
        self._trusted = trusted or _NO_TLS
        self._command = [
            sys.executable, "-m", "truesitter.cli", "serve", "--data", str(folder), "--port", str(self.port),
            *arguments,
        ]  # fmt: skip
        self.peak = 0
        self._over = threading.Event()

    def start(self) -> float:
        """Start it; seconds until it answers."""
        began = time.perf_counter()
        self.process = subprocess.Popen(self._command, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE)
        while True:
            if self.process.poll() is not None:
                assert self.process.stderr is not None
                raise RuntimeError(self.process.stderr.read().decode())
            try:
                httpx.get(f"{self.address}/api/sitters", timeout=5, verify=self._trusted)
            except httpx.TransportError:
                time.sleep(0.02)
                continue
            break
        return time.perf_counter() - began

    def __enter__(self) -> Self:
        self.start()
        threading.Thread(target=self._watch, daemon=True).start()
        return self

    def __exit__(self, *_: object) -> None:
        self._over.set()
        self.process.terminate()
        try:
            self.process.wait(30)
        except subprocess.TimeoutExpired:
            self.kill()

    def kill(self) -> None:
        """As a power cut would."""
        self.process.kill()
        self.process.wait()

    def _watch(self) -> None:
        while not self._over.wait(0.1):
            try:
                self.peak = max(self.peak, self.resident)
            except psutil.Error:
                continue

    @property
    def resident(self) -> int:
        """Bytes of all its processes."""
        first = psutil.Process(self.process.pid)
        return sum(int(p.memory_info().rss) for p in (first, *first.children(recursive=True)))

    def client(self, **options: Any) -> httpx.Client:
        return httpx.Client(base_url=self.address, timeout=300, verify=self._trusted, **options)


def quantile(values: list[float], share: float) -> float:
    """Of some numbers; 0 of none."""
    ordered = sorted(values)
    return ordered[min(len(ordered) - 1, int(share * len(ordered)))] if ordered else 0.0


def seconds_asked(default: float) -> float:
    """How long a trial goes on: SIEGE_SECONDS, or its usual length."""
    asked = os.environ.get("SIEGE_SECONDS", "")
    return float(asked) if re.fullmatch(r"\d+(\.\d+)?", asked) else default
