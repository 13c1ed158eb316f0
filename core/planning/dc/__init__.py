"""Strings on trackers: counts, arrangements, optimisers, switching at the roof."""
