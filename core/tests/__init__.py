"""Tests of the core: worked cases, properties, whole jobs."""

from __future__ import annotations

import os

from hypothesis import settings

# The first example of a test pays for reading data files; speed is measured by ./noon bench.
settings.register_profile("noon", deadline=None)
# Beside a mutant a test is run a hundred times: it takes fewer examples.
settings.register_profile("mutant", deadline=None, max_examples=15)
settings.load_profile("mutant" if os.environ.get("LONG_NOON_MUTANT") == "1" else "noon")
