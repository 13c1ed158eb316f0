"""The earth path that a plan needs."""
