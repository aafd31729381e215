"""`python -m bench [--short] [case …]`: the figures of docs/performance.md, measured on this machine.

With --short each case is done once on the smallest input, to see that it can be measured at all.
"""

from __future__ import annotations

import sys
import traceback

from bench.cases import CASES, memory
from bench.timing import be_short, machine, table


def main() -> None:
    wanted = sys.argv[1:] or [*CASES, "memory"]
    if "--short" in wanted:
        be_short()
        wanted = [w for w in wanted if w != "--short"] or [*CASES, "memory"]
    unknown = [w for w in wanted if w not in CASES and w != "memory"]
    if unknown:
        sys.exit(f"There is no case {', '.join(unknown)}; there are {', '.join([*CASES, 'memory'])}.")
    print(machine(), flush=True)
    failed = False
    for name in wanted:
        # Each as it is measured: what comes after may take long, or fail.
        try:
            print(memory() if name == "memory" else table(CASES[name]()), flush=True)
        except Exception:
            failed = True
            print(f"{name} could not be measured:\n{traceback.format_exc()}", flush=True)
    sys.exit(int(failed))


if __name__ == "__main__":
    main()
