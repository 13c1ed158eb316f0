"""Locks lifted by a licensed person; rehearsals."""
