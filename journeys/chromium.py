"""Debian's Chromium as it is driven here: where it is, how it starts, the two sizes of screen."""

from __future__ import annotations

import shutil

FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-dev-shm-usage",
)
DESK, HAND = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


def browser_path() -> str | None:
    """Debian's browser, as far as it is there."""
    return shutil.which("chromium-headless-shell") or shutil.which("chromium")
