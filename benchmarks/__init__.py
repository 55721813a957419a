"""Speed as ratios to yardsticks measured in the same run. `python -m benchmarks`, or `script/benchmark`."""
