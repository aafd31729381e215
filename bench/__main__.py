"""`python -m bench [case …]`: the figures of the README, measured on this machine."""

from __future__ import annotations

import sys

from bench.cases import CASES, memory
from bench.timing import machine, table


def main() -> None:
    wanted = sys.argv[1:] or [*CASES, "memory"]
    unknown = [w for w in wanted if w not in CASES and w != "memory"]
    if unknown:
        sys.exit(f"There is no case {', '.join(unknown)}; there are {', '.join([*CASES, 'memory'])}.")
    print(machine())
    figures = [f for name in wanted if name in CASES for f in CASES[name]()]
    if figures:
        print(table(figures))
    if "memory" in wanted:
        print(memory())


if __name__ == "__main__":
    main()
