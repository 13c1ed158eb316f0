"""On the roof: rails, hooks on rafters, clamps, and what to cut them from."""
