"""Whole jobs through the real interface, in headless Chromium against a live server."""
