"""Hang (mounting): the wall, its devices, what is seen before and after the drill."""
