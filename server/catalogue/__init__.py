"""The shelf: what can be chosen, from the core's data files."""
