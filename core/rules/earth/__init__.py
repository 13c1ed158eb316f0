"""Earthing and bonding: sizes, lugs, continuity."""
