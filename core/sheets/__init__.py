"""Drawings on paper: single-line diagram, serial map. Lines and texts, in millimetres.

The format in which they go out is somebody else's.
"""
