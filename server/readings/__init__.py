"""Readings kept for good, and tried without being kept."""
