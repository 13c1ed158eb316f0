"""Readings: append-only; a correction supersedes."""
