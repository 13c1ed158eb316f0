"""Tests of the core: worked cases, properties, whole jobs."""

from __future__ import annotations

from hypothesis import settings

# The first example of a test pays for reading data files; speed is measured by ./noon bench.
settings.register_profile("noon", deadline=None)
settings.load_profile("noon")
