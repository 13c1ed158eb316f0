"""How a figure was found: every rule's formula with its numbers, and where each came from."""
