"""Runs the benchmarks: the timed functions with pytest-benchmark's runner, the windows as whole processes."""

import sys
from pathlib import Path

import pytest

sys.exit(
    pytest.main(
        [str(Path(__file__).parent), "-p", "benchmark", "-o", "addopts=", "-o", "python_files=bench_*.py", "-q", "-s"]
    )
)
