"""Tests of the core. Beside a mutant they take fewer examples: each is run a hundred times."""

from __future__ import annotations

import os

from hypothesis import settings

if os.environ.get("LONG_NOON_MUTANT") == "1":
    settings.register_profile("mutant", max_examples=15, deadline=None)
    settings.load_profile("mutant")
