"""Tests of places."""

from __future__ import annotations

import core.tests  # noqa: F401  (the way properties are tried)
