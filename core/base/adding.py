"""Sums and sizes that are the same to the last digit wherever the core runs.

Real figures are added with ``math.fsum``: plain ``sum`` rounds differently between versions.
"""

from __future__ import annotations

from collections.abc import Iterable
from math import fsum, hypot


def complex_sum(parts: Iterable[complex]) -> complex:
    """The sum of phasors, each part rounded once."""
    every = tuple(parts)
    return complex(fsum(one.real for one in every), fsum(one.imag for one in every))


def magnitude(phasor: complex) -> float:
    """The size of a phasor. ``abs`` would ask the C library, and each rounds in its own way."""
    return hypot(phasor.real, phasor.imag)
