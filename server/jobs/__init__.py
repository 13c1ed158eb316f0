"""Jobs: the stored plan, its changes, and the way to the core's value."""
