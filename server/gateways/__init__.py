"""Looks at a gateway's list, kept for good."""
