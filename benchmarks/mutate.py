"""A seeded mutation run over the core: one place changed at a time, in copies of the tree; which tests notice?

Prints a line for each mutant, then the survivors: places where the program may say something else and no test minds.
Only tests that come to the changed line are asked, by a map that one run of all tests under coverage gives.
"""

from __future__ import annotations

import argparse
import queue
import shutil
import sys
import tempfile
from concurrent.futures import ThreadPoolExecutor
from itertools import islice
from pathlib import Path

from benchmarks.mutants import ROOT, Mutant, mutants
from benchmarks.noticing import is_noticed, passes_unchanged, test_map

ROOMS = ("craft", "planning", "workpiece", "shop")
_IGNORED = shutil.ignore_patterns(".git", ".venv", "__pycache__", "docs", "build", ".*cache", ".hypothesis")


def main() -> int:
    """Run as many mutants as are asked for; returns 1 where more than 15 % survive."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--room", choices=ROOMS, action="append")
    parser.add_argument("--workers", type=int, default=2)
    parser.add_argument("--old-map", action="store_true", help="believe the last map of tests and lines")
    options = parser.parse_args()
    tests = test_map(is_new=not options.old_map)
    chosen = list(islice(mutants(options.room or list(ROOMS), options.seed), options.count))
    survivors: list[str] = []
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(options.workers) as workers:
        copies: queue.Queue[Path] = queue.Queue()
        for number in range(options.workers):
            copies.put(shutil.copytree(ROOT, Path(folder) / f"tree{number}", ignore=_IGNORED))
        if not passes_unchanged(Path(folder) / "tree0", tests):
            sys.exit("The tests fail without a mutant.")

        def try_it(mutant: Mutant) -> None:
            copy_of = copies.get()
            try:
                found = is_noticed(mutant, copy_of, tests)
            finally:
                copies.put(copy_of)
            where = f"{mutant.path.relative_to(ROOT / 'src/orvek')}:{mutant.line}"
            print(f"{'noticed ' if found else 'SURVIVED'} {where}  {mutant.what}", flush=True)
            if not found:
                survivors.append(where)

        list(workers.map(try_it, chosen))
    print(f"{len(survivors)} of {options.count} survived: {', '.join(survivors) or 'none'}")
    return int(len(survivors) > 0.15 * options.count)


if __name__ == "__main__":
    sys.exit(main())
