"""Switching on: locks that a licensed person lifted, and rehearsals."""
