"""Edits of the AC side, the home runs and what is around them."""
