"""Timing: medians over repeats, and a table with what was aimed at."""

from __future__ import annotations

import os
import platform
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import numpy as np


@dataclass(frozen=True)
class Figure:
    """One line of the report; times in ms."""

    what: str
    median: float
    p95: float
    aim: str
    beside: str = ""


_SHORT: list[bool] = []


def be_short() -> None:
    """From now on everything is done once, on the smallest input: to see that it can be done."""
    _SHORT.append(True)


def short() -> bool:
    """Whether everything is done once only."""
    return bool(_SHORT)


def repeats(usual: int) -> int:
    """How often something is done."""
    return 1 if short() else usual


def times(run: Callable[[], object], count: int) -> np.ndarray:
    """Wall-clock ms of each repeat, after one that does not count."""
    if not short():
        run()
    out = []
    for _ in range(1 if short() else count):
        start = time.perf_counter()
        run()
        out.append((time.perf_counter() - start) * 1000)
    return np.array(out)


def figure(what: str, ms: np.ndarray, aim: str = "", beside: str = "") -> Figure:
    return Figure(what, float(np.median(ms)), float(np.quantile(ms, 0.95)), aim, beside)


def ratio(ours: np.ndarray, theirs: np.ndarray, name: str) -> str:
    speed = np.median(theirs) / np.median(ours)
    rate = f"{speed:.0f} × faster than" if speed >= 1.5 else f"{speed:.1f} × the speed of"
    return f"{rate} {name} ({np.median(theirs):.0f} ms)"


def machine() -> str:
    model = platform.processor() or platform.machine()
    info = Path("/proc/cpuinfo")
    if info.is_file():
        names = [
            line.split(":", 1)[1].strip() for line in info.read_text().splitlines() if "model name" in line
        ]
        model = names[0] if names else model
    began = time.perf_counter()
    sum(n * n for n in range(10**6))
    pace = (time.perf_counter() - began) * 10
    return (
        f"{model}, {os.cpu_count()} cores, Python {platform.python_version()}, NumPy {np.__version__}; "
        f"{pace:.1f} s for ten million squares in Python"
    )


def table(figures: list[Figure]) -> str:
    width = max(len(f.what) for f in figures)
    lines = [f"{'':{width}}  median    p95  aim"]
    for f in figures:
        beside = f"   {f.beside}" if f.beside else ""
        lines.append(f"{f.what:{width}}  {f.median:6.1f} {f.p95:6.1f}  {f.aim:10}{beside}")
    return "\n".join(lines)
