"""A figure beside its limit and their ratio (below 1 keeps it), and how a time is taken."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def show(name: str, figure: float, limit: float, unit: str) -> bool:
    """Print a figure beside its limit; gives whether it keeps it."""
    ratio = figure / limit
    print(f"{name:52}{figure:10.2f} {unit:4} of {limit:7.1f} {unit:4} ratio {ratio:5.2f}")
    return ratio <= 1


def median_ms(run: Callable[[], object], runs: int) -> float:
    """Median time of a call in ms, after one that is not counted."""
    run()
    times = []
    for _ in range(runs):
        begun = time.perf_counter()
        run()
        times.append(time.perf_counter() - begun)
    return 1000 * statistics.median(times)
