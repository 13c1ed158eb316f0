"""Records signed and frozen: who signed what, each version for good, verified by anyone."""
