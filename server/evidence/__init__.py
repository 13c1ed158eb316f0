"""Pictures and documents of a step, by their bytes."""
